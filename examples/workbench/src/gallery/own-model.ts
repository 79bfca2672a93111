import { entity, integer, model as modelOf, shape, text, timestamp, toMany, toOne, unseal } from 'gribo';

// A model of your own: entities, links, rows. Write yours in its place.
export const model = modelOf(
  {
    member: entity('member', {
      id: integer().key(),
      name: text(),
      email: text().sealed('personal'),
    }),
    loan: entity('loan', {
      id: integer().key(),
      book: text(),
      due: timestamp(),
      memberId: integer(),
    }),
  },
  {
    member: { loans: toMany('loan', 'memberId') },
    loan: { member: toOne('member', 'memberId') },
  },
);

export const rows = {
  member: [{ id: 1, name: 'Ines', email: 'ines@club.example' }],
  loan: [{ id: 1, book: 'Knots', memberId: 1 }],
};

const Loan = shape(model.loan, ({ book, due }) => ({ book, due }));

export const Member = shape(model.member, (m) => ({
  name: m.name,
  loans: Loan(m.loans),
  email: unseal('harbourMaster', m.email),
}));
