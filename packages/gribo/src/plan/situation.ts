/** What a plan is resolved for. Everything left out means: no endpoint, no audience, nothing asked. */
export interface Situation {
  /** The endpoint's dotted name, such as `vessels.read`. */
  readonly endpoint?: string;
  /**
   * Whom the response is for; null, as where it is left out: a caller of no audience. Nothing that is meant for an
   * audience is included then.
   */
  readonly audience?: string | null;
  /** The edition in which the API is asked; left out: the newest. Bodies of an API's plan have been settled for one. */
  readonly edition?: string;
  /** The names the caller asked for with `?with=`. */
  readonly asked?: readonly string[];
  /**
   * The only members the caller wants, as dotted paths (`operator.name`); a path takes along what
   * is below it. Left out: all of them.
   */
  readonly fields?: readonly string[];
}
