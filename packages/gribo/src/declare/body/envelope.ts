import {
  contentShape,
  type EnvelopePlan,
  type ListPlan,
  type PageSettings,
  type ShapePlan,
} from '../../plan/declared.js';
import { contentLink, ENVELOPE } from '../../plan/envelope.js';
import { everyRow } from '../../plan/every-row.js';
import { freeze } from '../../util/freeze.js';
import type { BoundEntity } from '../entity/model.js';
import { type Home, handOut, MemberRef } from '../references/member.js';
import { rootRow, rowRef } from '../references/row-ref.js';
import { readFields } from '../shape/read-fields.js';
import type { Value } from '../types/member-types.js';

type WholeOrNull = Value<number | null, number | null>;
type WordsOrNull = Value<string | null, string | null>;

/** What is known about the rows in an envelope; null where it does not apply. */
export interface EnvelopeInfo {
  /** The page's number, from 1. */
  readonly number: WholeOrNull;
  /** Rows on a page. */
  readonly size: WholeOrNull;
  /** Rows in all. */
  readonly total: WholeOrNull;
  /** How many pages they fill. */
  readonly pages: WholeOrNull;
  /** The cursor of the next page. */
  readonly next: WordsOrNull;
  /** The cursor of the previous page. */
  readonly previous: WordsOrNull;
}

/** The data of an envelope as something shapes can be declared over. */
const bound: BoundEntity = freeze({ entity: ENVELOPE, links: new Map(), model: new Map() });

const contentMember = (content: ShapePlan | ListPlan, home: Home): unknown => {
  const shape = contentShape(content);
  const link = contentLink(content.kind === 'shape' ? 'one' : 'list', shape.entity);
  return content.kind === 'shape'
    ? handOut(new MemberRef({ kind: 'nested', path: freeze([link]), shape }, home))
    : handOut(
        new MemberRef({ kind: 'nestedList', path: freeze([]), link, selection: everyRow, shape }, home),
      );
};

/** Declares an envelope: given the content and what is known about it, returns the literal around it. */
export const declareEnvelope = (
  name: string,
  content: ShapePlan | ListPlan,
  page: PageSettings | null,
  declare: (content: never, info: EnvelopeInfo) => unknown,
): EnvelopePlan => {
  const place = rootRow(bound);
  const literal = declare(contentMember(content, place.home) as never, rowRef(place) as EnvelopeInfo);
  const fields = readFields(name, name, literal, place.home);
  return freeze({
    kind: 'envelope',
    content,
    shape: freeze({ kind: 'shape', name, entity: ENVELOPE, about: null, fields }),
    page,
  });
};
