/** How far a request has got. */
export interface Progress {
  /** Whether something is stored by now: whatever fails then, its caller must not be told that nothing was done. */
  isStored: boolean;
}
