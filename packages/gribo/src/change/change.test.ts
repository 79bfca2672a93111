import { expect } from 'chai';
import { entity, integer, model, text, toMany, toOne } from '../index.js';
import { type ChangeFlow, type ChangePlan, planChange, runChange, type Values, type Work } from '../kit.js';
import { thrownBy } from '../testing/engines.js';
import { callId, stock } from '../testing/stock.js';

/** A plan as lines that can be read and compared. */
const told = ({ steps }: ChangePlan): string[] =>
  steps.map((step, i) => {
    const flows: readonly ChangeFlow[] =
      step.kind === 'test' || step.kind === 'refuse' ? [] : step.kind === 'remove' ? [step.flow] : step.flows;
    const from = flows.map(
      ({ columns, from: { step: of, columns: there }, rows }) =>
        ` ${columns.join('+')}<${of}.${there.join('+')}[${rows.map((row) => row ?? '-').join()}]`,
    );
    const only = step.only === null ? '' : ` if ${step.only.step} ${step.only.found ? 'found' : 'not found'}`;
    const what = step.kind === 'insert' ? ` ×${step.rows.length}` : '';
    const needs = step.kind === 'insert' || step.kind === 'find' ? ` needs ${step.needs.join('+')}` : '';
    return `${i} ${step.kind} ${step.entity}${what}${from.join('')}${only}${needs}`;
  });

/** Runs a plan on rows that are simply there, and tells the work that it asks for. */
const worked = (plan: ChangePlan, found: (work: Work) => readonly Values[]): Work[] => {
  const run = runChange(plan);
  const all: Work[] = [];
  for (let next = run.next(); next.done !== true; next = run.next(found(next.value))) all.push(next.value);
  return all;
};

describe('a change plan', () => {
  const calls = [0, 1].map((n) => ({
    id: callId(n),
    status: 'announced',
    pilots: [{ name: 'New' }, { id: 7 }],
  }));
  const nested = {
    name: 'Deep',
    parent: { name: 'Above' },
    vessels: [{ name: 'A', portCalls: calls }, { name: 'B' }, { name: 'C', portCalls: [calls[0]] }],
  };

  it('makes many rows in one step, and asks for no key that nobody needs', () => {
    const changes = [{ name: 'One' }, { name: 'Two' }];
    const { steps } = planChange(stock, { operation: 'create', entity: 'pilot', changes });
    expect(steps).to.have.length(1);
    expect(steps[0]).to.deep.include({ kind: 'insert', entity: 'pilot', rows: changes, needs: [] });
    const [one] = planChange(stock, { operation: 'create', entity: 'pilot', change: { name: 'One' } }).steps;
    expect(one).to.deep.include({ needs: ['id'] });
  });

  it('makes all rows of one entity and level in one step, and says which keys flow where', () => {
    expect(
      told(planChange(stock, { operation: 'create', entity: 'operator', change: nested })),
    ).to.deep.equal([
      '0 insert operator ×1 needs id',
      '1 insert operator ×1 parentId<0.id[0] needs id',
      '2 insert vessel ×3 operatorId<1.id[0,0,0] needs id',
      '3 insert portCall ×3 vesselId<2.id[0,0,2] needs id',
      '4 insert pilot ×3 needs id',
      '5 insert pilotage ×6 portCallId<3.id[0,0,1,1,2,2] pilotId<4.id[0,-,1,-,2,-] needs ',
    ]);
  });

  it('means a row that is there by its key alone: with more to it, it is a new one', () => {
    const pilots = [{ id: 7 }, { id: 8, name: 'New' }];
    const change = { id: callId(0), status: 'announced', pilots };
    expect(told(planChange(stock, { operation: 'create', entity: 'portCall', change }))).to.deep.equal([
      '0 insert portCall ×1 needs id',
      '1 insert pilot ×1 needs id',
      '2 insert pilotage ×2 portCallId<0.id[0,0] pilotId<1.id[-,0] needs ',
    ]);
  });

  it('changes what is there, makes what is not, and puts lists in the place of those before', () => {
    const change = { name: 'X', operator: { name: 'Y', parent: { name: 'Z' } }, portCalls: [] };
    const plan = planChange(stock, { operation: 'amend', entity: 'vessel', key: [3], change });
    expect(told(plan)).to.deep.equal([
      '0 find vessel needs id+operatorId',
      '1 find operator id<0.operatorId[0] needs parentId+id',
      '2 find operator id<1.parentId[0] if 1 found needs id',
      '3 update operator if 2 found',
      '4 insert operator ×1 if 2 not found needs id',
      '5 update operator parentId<4.id[0] if 1 found',
      '6 insert operator ×1 needs id'.replace('needs', 'if 1 not found needs'),
      '7 insert operator ×1 parentId<6.id[0] if 1 not found needs id',
      '8 update vessel operatorId<7.id[0]',
      '9 remove portCall vesselId<0.id[0]',
    ]);
    const row = { id: 3, operatorId: 9, parentId: null };
    const work = worked(plan, (one) => (one.kind === 'find' || one.kind === 'insert' ? [row] : []));
    expect(work.map(({ kind, entity: of }) => `${kind} ${of}`)).to.deep.equal([
      'find vessel',
      'find operator',
      // Nobody is looked for behind a link that leads nowhere: the parent is made.
      'insert operator',
      'update operator',
      'update vessel',
      'remove portCall',
    ]);
  });

  it('removes a row that is there', () => {
    const plan = planChange(stock, { operation: 'remove', entity: 'vessel', key: [3] });
    expect(told(plan)).to.deep.equal(['0 find vessel needs id', '1 remove vessel id<0.id[0]']);
    expect(worked(plan, () => []).map(({ kind }) => kind)).to.deep.equal(['find']);
  });

  it('is whole: a deep copy asks for the same work', () => {
    for (const wanted of [
      { operation: 'create', entity: 'operator', change: nested },
      { operation: 'amend', entity: 'operator', key: [1], change: nested },
      { operation: 'remove', entity: 'operator', key: [1] },
    ] as const) {
      const plan = planChange(stock, wanted);
      const rows = (work: Work): readonly Values[] =>
        work.kind === 'insert'
          ? work.rows.map((row, i) => ({ id: i + 50, ...row }))
          : [{ id: 1, parentId: 2 }];
      expect(worked(structuredClone(plan), rows)).to.deep.equal(worked(plan, rows));
      expect(Object.isFrozen(plan) && plan.steps.every((step) => Object.isFrozen(step))).to.equal(true);
    }
  });

  it('lets every part of a composite key flow', () => {
    const branches = model(
      {
        branch: entity('branch', { company: text().key(), number: integer().key(), name: text() }),
        clerk: entity('clerk', { id: integer().key().generated(), company: text(), branchNumber: integer() }),
      },
      {
        branch: { clerks: toMany('clerk', ['company', 'branchNumber']) },
        clerk: { branch: toOne('branch', ['company', 'branchNumber']) },
      },
    );
    const change = { company: 'C', number: 2, name: 'N', clerks: [{}, {}] };
    expect(told(planChange(branches, { operation: 'create', entity: 'branch', change }))).to.deep.equal([
      '0 insert branch ×1 needs company+number',
      '1 insert clerk ×2 company+branchNumber<0.company+number[0,0] needs ',
    ]);
    const made = worked(planChange(branches, { operation: 'create', entity: 'branch', change }), (work) =>
      work.kind === 'insert' ? work.rows : [],
    );
    expect(made[1]).to.deep.include({
      rows: [
        { company: 'C', branchNumber: 2 },
        { company: 'C', branchNumber: 2 },
      ],
    });
    // A key that is null in part leads nowhere: nothing is looked for, and the row behind it is made.
    const wanted = {
      operation: 'amend',
      entity: 'clerk',
      key: [1],
      change: { branch: { company: 'D', number: 3, name: 'M' } },
    } as const;
    const asked = worked(planChange(branches, wanted), (work) => {
      if (work.kind === 'find') return [{ id: 1, company: 'C', branchNumber: null }];
      return work.kind === 'insert' ? work.rows : [];
    });
    expect(asked.map(({ kind, entity: name }) => `${kind} ${name}`)).to.deep.equal([
      'find clerk',
      'insert branch',
      'update clerk',
    ]);
  });

  it('knows the entities of its model only', () => {
    const wrong = thrownBy(() => planChange(stock, { operation: 'remove', entity: 'vesel', key: [1] })) as {
      code?: string;
      message?: string;
    };
    expect(wrong.code).to.equal('UNKNOWN');
    expect(wrong.message).to.contain('Did you mean "vessel"?');
  });
});
