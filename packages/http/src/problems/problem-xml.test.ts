import { expect } from 'chai';
import { parseXml } from '../formats/parse-xml.js';
import { Problem } from './problem.js';
import { problemResponse } from './problem-response.js';

const LIMITS = { items: 100, depth: 10 } as Parameters<typeof parseXml>[1];

describe('a problem in XML', () => {
  it('is well-formed with its namespaces, whatever a handler tells in it', () => {
    // What is typed as a text may be anything by then.
    const told = { pointer: '/name', code: 'choice', message: 'Not <this>.', near: null, more: undefined };
    const problem = new Problem(422, { errors: [told as never] });
    const { content } = problemResponse(problem, 'application/problem+xml', null);
    const errors = parseXml(String(content), LIMITS)?.members.get('errors')?.[0]?.members.get('i')?.[0];
    expect([...(errors?.members.keys() ?? [])]).to.deep.equal(['pointer', 'code', 'message', 'near']);
    expect(errors?.members.get('message')?.[0]?.text).to.equal('Not <this>.');
    expect(errors?.members.get('near')?.[0]?.isNil).to.equal(true);
  });

  it('names no namespace that it has no use for', () => {
    const { content } = problemResponse(new Problem(404), 'application/problem+xml', null);
    expect(content).to.equal(
      '<?xml version="1.0" encoding="UTF-8"?>\n<problem xmlns="urn:ietf:rfc:7807"><type>about:blank</type><title>Not Found</title><status>404</status></problem>\n',
    );
  });
});
