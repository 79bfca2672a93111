import { type EndpointPlan, type InputField, jsonReady, type ProblemPlan } from 'gribo/kit';
import { Problem } from './problem.js';

/** A value among the details of a problem, as JSON shows it. */
const shown = ({ node }: InputField, value: unknown): unknown => {
  if (value === null || value === undefined) return value;
  switch (node.kind) {
    case 'set':
      return jsonReady(node.column.type, value);
    case 'nestedInput': {
      const { fields } = node.input;
      return Array.isArray(value) ? value.map((one) => membersOf(fields, one)) : membersOf(fields, value);
    }
    // Among values, groups are values inside others.
    case 'inputGroup':
      return value;
    default:
      return node satisfies never;
  }
};

const membersOf = (fields: readonly InputField[], values: object): Readonly<Record<string, unknown>> => {
  const given = values as Readonly<Record<string, unknown>>;
  return Object.fromEntries(
    fields.flatMap((field) => {
      const value = given[field.name];
      return value === undefined ? [] : [[field.name, shown(field, value)]];
    }),
  );
};

/** A problem in the words of its declaration: what was thrown says only what is so this time. */
const declared = (problem: Problem, { code, title, type, members }: ProblemPlan): Problem =>
  new Problem(problem.status, {
    ...(problem.detail === null ? {} : { detail: problem.detail }),
    code,
    title,
    ...(type === null ? {} : { type }),
    members: members === null ? {} : membersOf(members.fields, problem.members),
    errors: problem.errors,
    headers: problem.headers,
    cause: problem.cause,
  });

/** A problem that an endpoint answers with: one of its own is shown as it is declared, any other as it is. */
export const ownProblem = (problem: Problem, endpoint: EndpointPlan | null): Problem => {
  const own = endpoint?.problems.find(
    ({ code, status }) => code === problem.problemCode && status === problem.status,
  );
  return own === undefined ? problem : declared(problem, own);
};
