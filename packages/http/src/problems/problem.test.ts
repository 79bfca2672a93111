import { expect } from 'chai';
import { Problem } from '../index.js';

describe('Problem', () => {
  it('has the title of its status, or of its class where there is none', () => {
    const titles = [400, 404, 409, 413, 418, 451, 499, 500, 503, 507, 599].map(
      (status) => new Problem(status).title,
    );
    expect(titles).to.deep.equal([
      'Bad Request',
      'Not Found',
      'Conflict',
      'Content Too Large',
      'Bad Request',
      'Bad Request',
      'Bad Request',
      'Internal Server Error',
      'Service Unavailable',
      'Internal Server Error',
      'Internal Server Error',
    ]);
  });

  it('says its detail, else its title, and keeps what is not for the caller apart', () => {
    const cause = new Error('secret');
    const full = new Problem(409, { detail: 'It is taken.', headers: { 'retry-after': '5' }, cause });
    expect(full).to.include({ code: 'PROBLEM', status: 409, detail: 'It is taken.', cause });
    expect(full.message).to.contain('It is taken.').and.not.contain('secret');
    expect(full.headers).to.deep.equal({ 'retry-after': '5' });
    const bare = new Problem(409);
    expect(bare).to.include({ detail: null, message: new Problem(409, { detail: 'Conflict' }).message });
    expect(bare).not.to.have.property('cause');
    expect([bare.errors, bare.headers]).to.deep.equal([[], {}]);
  });
});
