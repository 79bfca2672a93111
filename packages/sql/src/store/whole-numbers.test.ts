import { expect } from 'chai';
import {
  amending,
  api,
  bigint,
  collection,
  count,
  entity,
  equals,
  input,
  integer,
  list,
  model,
  shape,
  text,
  toMany,
  toOne,
} from 'gribo';
import { asking, everyPlace, type Kept } from '../testing/every-place.js';

/** Keys of 64 bits that columns of 32 hold, and the other way round; a plaque has its hull's own number. */
const db = model(
  {
    hull: entity('hull', { id: bigint().key(), name: text() }, { stored: 'whole_hull' }),
    plaque: entity('plaque', { hullId: integer().key(), words: text() }, { stored: 'whole_plaque' }),
    survey: entity(
      'survey',
      { id: integer().key(), hullId: integer(), found: text() },
      { stored: 'whole_survey' },
    ),
    photo: entity(
      'photo',
      { id: integer().key(), surveyId: bigint(), shows: text() },
      { stored: 'whole_photo' },
    ),
  },
  {
    hull: {
      surveys: toMany('survey', 'hullId'),
      plaque: toOne('plaque', 'id', { optional: true }),
      photos: toMany('photo', { surveyId: 'id' }),
    },
    plaque: { hull: toOne('hull', 'hullId') },
    survey: { hull: toOne('hull', 'hullId'), photos: toMany('photo', 'surveyId') },
    photo: { survey: toOne('survey', 'surveyId') },
  },
);

const Photo = shape(db.photo, (p) => ({ id: p.id, of: p.shows, found: p.survey.found }), { name: 'Photo' });
const Survey = shape(
  db.survey,
  (s) => ({
    id: s.id,
    hullId: s.hull.id,
    hull: s.hull.name,
    photos: count(s.photos),
    shown: Photo(s.photos),
  }),
  { name: 'Survey' },
);
const Hull = shape(
  db.hull,
  (h) => ({ id: h.id, plaque: h.plaque.words, surveys: count(h.surveys), photos: count(h.photos) }),
  { name: 'Hull' },
);
const NewPhoto = input(db.photo, (p) => ({ id: p.id, of: p.shows }), { name: 'NewPhoto' });
const NewSurvey = input(
  db.survey,
  (s) => ({ id: s.id, found: s.found, hullId: s.hullId, photos: NewPhoto(s.photos) }),
  { name: 'NewSurvey' },
);
const HullSurvey = input(db.survey, (s) => ({ id: s.id, found: s.found, photos: NewPhoto(s.photos) }), {
  name: 'HullSurvey',
});
const NewHull = input(db.hull, (h) => ({ id: h.id, name: h.name, surveys: HullSurvey(h.surveys) }), {
  name: 'NewHull',
});

const office = api({
  title: 'Office',
  version: '1',
  endpoints: {
    hulls: collection('/hulls', db.hull, {
      list: list(Hull),
      read: Hull,
      create: { takes: NewHull, returns: Hull },
      amend: { takes: amending(NewHull, ({ surveys }) => ({ surveys })), returns: Hull },
      remove: true,
      sort: ['id'],
    }),
    surveys: collection('/surveys', db.survey, {
      list: list(Survey),
      read: Survey,
      create: { takes: NewSurvey, returns: Survey },
      amend: { takes: amending(NewSurvey, ({ hullId, photos }) => ({ hullId, photos })), returns: Survey },
      sort: ['id'],
      filters: (s) => ({ hull: equals(s.hull.id), name: equals(s.hull.name) }),
    }),
    hullSurveys: collection('/hulls/{hull}/surveys', db.survey, {
      under: 'hull',
      list: list(Survey),
      read: Survey,
      create: { takes: HullSurvey, returns: Survey },
    }),
  },
});

const KEPT: Kept = {
  model: db,
  tables: () => ({
    whole_hull: 'id bigint primary key, name varchar(40) not null',
    whole_plaque: 'hull_id integer primary key, words varchar(40) not null',
    whole_survey: 'id integer primary key, hull_id integer not null, found varchar(40) not null',
    whole_photo: 'id integer primary key, survey_id bigint not null, shows varchar(40) not null',
  }),
  rows: {
    hull: [
      { id: 1n, name: 'Anselma' },
      { id: 9_007_199_254_740_993n, name: 'Beyond' },
    ],
    plaque: [{ hullId: 1, words: 'Built by hand' }],
    survey: [{ id: 5, hullId: 1, found: 'rust' }],
    photo: [{ id: 1, surveyId: 5n, shows: 'the bow' }],
  },
};

everyPlace('links between whole numbers of both sizes', KEPT, (place) => {
  it('lead to the same rows, whichever side holds the larger ones', async () => {
    for (const store of place().stores) {
      const ask = asking(office, store);
      expect(await ask('GET', '/hulls')).to.deep.equal([
        200,
        [
          { id: '1', plaque: 'Built by hand', surveys: 1, photos: 0 },
          { id: '9007199254740993', plaque: null, surveys: 0, photos: 0 },
        ],
      ]);
      expect(await ask('GET', '/surveys?hull=1&name=Anselma')).to.deep.equal([
        200,
        [
          {
            id: 5,
            hullId: '1',
            hull: 'Anselma',
            photos: 1,
            shown: [{ id: 1, of: 'the bow', found: 'rust' }],
          },
        ],
      ]);
    }
  });

  it('are made and changed through either side', async () => {
    const [store] = place().stores;
    const ask = asking(office, store);
    const nested = { id: 8, found: 'dents', photos: [{ id: 2, of: 'the stern' }] };
    expect((await ask('POST', '/hulls', { id: '7', name: 'New', surveys: [nested] }))[0]).to.equal(201);
    expect((await ask('GET', '/surveys/8'))[1]).to.deep.equal({
      id: 8,
      hullId: '7',
      hull: 'New',
      photos: 1,
      shown: [{ id: 2, of: 'the stern', found: 'dents' }],
    });
    expect((await ask('POST', '/hulls/7/surveys', { id: 9, found: 'nothing', photos: [] }))[0]).to.equal(201);
    expect((await ask('GET', '/hulls/7'))[1]).to.include({ surveys: 2 });
    expect(
      (await ask('PATCH', '/surveys/9', { hullId: 1, photos: [{ id: 3, of: 'the mast' }] }))[0],
    ).to.equal(200);
    expect((await ask('GET', '/surveys/9'))[1]).to.include({ hull: 'Anselma', photos: 1 });
  });

  it('are refused where the number is too large for the column that would hold it', async () => {
    const [store] = place().stores;
    const ask = asking(office, store);
    const survey = { id: 11, found: 'fog', photos: [] };
    const [status] = await ask('POST', '/hulls/9007199254740993/surveys', survey);
    expect(status).to.equal(422);
    expect((await ask('GET', '/surveys'))[1]).to.have.length(1);
  });
});
