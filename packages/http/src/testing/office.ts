import {
  amending,
  api,
  asked,
  at,
  atLeast,
  audience,
  collection,
  contains,
  endpoint,
  equals,
  given,
  input,
  isNull,
  list,
  oneOfThese,
  optional,
  page,
  shape,
  wrap,
} from 'gribo';
import { stock } from '../../../gribo/src/testing/stock.js';

export const OperatorName = shape(stock.operator, ({ id, name }) => ({ id, name }), { name: 'OperatorName' });

export const CallLine = shape(
  stock.portCall,
  ({ id, eta, status, remarks }) => ({ id, eta, status, remarks }),
  {
    name: 'CallLine',
  },
);

export const Vessel = shape(
  stock.vessel,
  (v) => ({
    id: v.id,
    name: v.name,
    callSign: v.callSign,
    size: { tonnage: v.tonnage, draught: v.draught },
    operator: OperatorName(v.operator),
    calls: at({ read: CallLine(v.portCalls) }),
    more: at({ read: given(asked('more'), { kind: v.kind, built: v.builtYear, active: v.active }) }),
    weight: given(audience('office'), v.weight),
  }),
  { name: 'Vessel' },
);

export const NewVessel = input(
  stock.vessel,
  (v) => ({
    name: v.name,
    callSign: optional(v.callSign),
    kind: v.kind,
    built: v.builtYear,
    size: { tonnage: v.tonnage, draught: v.draught },
    active: v.active,
    weight: v.weight,
    operator: optional({ id: v.operatorId }),
  }),
  { name: 'NewVessel' },
);

export const NewCall = input(
  stock.portCall,
  (c) => ({ id: c.id, eta: c.eta, status: c.status, remarks: optional(c.remarks) }),
  { name: 'NewCall' },
);

const NewOperator = input(stock.operator, (o) => ({ name: o.name, fleet: optional(NewVessel(o.vessels)) }), {
  name: 'NewOperator',
});

/** An API with one of everything. */
export const office = api({
  title: 'Office',
  version: '1.0.0',
  audiences: ['agent', 'office'],
  endpoints: {
    vessels: collection('/vessels', stock.vessel, {
      list: page(Vessel, { size: 2, max: 4, sort: ['name'] }),
      read: Vessel,
      create: { takes: NewVessel, returns: Vessel },
      replace: { takes: NewVessel, returns: Vessel },
      amend: { takes: amending(NewVessel, ({ built, ...rest }) => rest), returns: Vessel },
      remove: true,
      filters: (v) => ({
        kind: oneOfThese(v.kind),
        from: atLeast(v.builtYear),
        q: contains(v.name),
        active: equals(v.active),
        unsigned: isNull(v.callSign),
      }),
      sort: ['name', 'builtYear'],
    }),
    operators: collection('/operators', stock.operator, {
      list: list(OperatorName),
      read: OperatorName,
      create: { takes: NewOperator },
    }),
    calls: collection('/vessels/{vessel}/calls', stock.portCall, {
      under: 'vessel',
      list: list(CallLine),
      read: CallLine,
      create: { takes: NewCall, returns: CallLine },
      remove: true,
    }),
    feed: endpoint('GET /feed', {
      from: stock.vessel,
      returns: page(OnlyId(), { by: 'cursor', size: 2, sort: ['callSign'] }),
    }),
    'vessels.options': endpoint('GET /vessels/options', { from: stock.vessel, returns: list(OnlyId()) }),
    wrapped: endpoint('GET /wrapped', {
      from: stock.operator,
      returns: wrap(list(OperatorName), (content, info) => ({ data: content, total: info.total })),
      deprecated: { since: '2026-01-01', sunset: '2026-12-31', instead: '/operators' },
    }),
    books: endpoint('GET /books', {
      from: stock.operator,
      returns: list(OperatorName),
      audiences: ['office'],
    }),
  },
});

function OnlyId() {
  return shape(stock.vessel, ({ id, name }) => ({ id, name }), { name: 'OnlyId' });
}

/** A body that `vessels.create` takes. */
export const VESSEL = {
  name: 'New One',
  kind: 'tug',
  built: 2001,
  size: { tonnage: '12.5', draught: 2 },
  active: true,
  weight: '5',
};
