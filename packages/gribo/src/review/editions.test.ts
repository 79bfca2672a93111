import { expect } from 'chai';
import {
  any,
  api,
  collection,
  editionBefore,
  editionFrom,
  given,
  isNull,
  lineage,
  list,
  ofEdition,
  review,
  rowRule,
  shape,
  unseal,
} from '../index.js';
import { fleet } from '../testing/fleet.js';

describe('a review of an API with editions', () => {
  const Vessel = shape(
    fleet.vessel,
    (v) => ({
      id: v.id,
      name: v.name,
      phone: given(editionBefore('2026-05'), unseal('agent', v.masterPhone)),
      year_built: given(editionFrom('2026-05'), v.builtYear),
    }),
    { name: 'Vessel' },
  );
  const office = api({
    title: 'Office',
    version: '1',
    audiences: ['agent'],
    editions: ['2025-11', '2026-05', '2026-11'],
    endpoints: { vessels: collection('/vessels', fleet.vessel, { list: list(Vessel), read: Vessel }) },
    rows: [
      rowRule(fleet.vessel, (v) => any(editionBefore('2026-11'), isNull(v.callSign))),
      rowRule(fleet.operator, (o) => isNull(o.parentId)),
    ],
  });
  const found = (looked: typeof office, code: string): readonly string[] =>
    review(looked)
      .findings.filter((finding) => finding.code === code)
      .map(({ place, message }) => `${place}: ${message}`);

  it('tells what only one before the newest has, and in which', () => {
    expect(found(office, 'no-audience')).to.deep.equal([]);
    expect(found(office, 'unsealed')).to.deep.equal([
      'vessel.masterPhone: It is sealed (personal), and goes to agent at vessels.list, vessels.read. In 2025-11 only.',
    ]);
    // In the newest it is told without a word of editions, and once.
    expect(found(office, 'style')).to.have.length(1);
    expect(found(office, 'style').join('')).to.not.contain('2026');
    expect(lineage(office).some(({ column }) => column === 'masterPhone')).to.equal(false);
  });

  it('tells of rows that are seen in one and not in another', () => {
    expect(found(office, 'rows-by-edition')).to.deep.equal([
      'vessel: There are 2 rules for its rows, by edition.',
    ]);
    expect(found(ofEdition(office, '2025-11'), 'rows-by-edition')).to.deep.equal([]);
  });
});
