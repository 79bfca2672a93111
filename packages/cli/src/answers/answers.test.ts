import { expect } from 'chai';
import { gribo } from '../testing/run-gribo.js';

describe('gribo answers', () => {
  it('prints the statements that make the table of kept answers, one each', async () => {
    const { code, out } = await gribo(['answers', 'mysql', '--table', 'kept "it"']);
    expect(code).to.equal(0);
    const lines = out.trim().split('\n');
    expect(lines).to.have.length(3);
    expect(lines[0]).to.contain(
      'create table `kept "it"` (`key` varchar(43) character set ascii collate ascii_bin',
    );
    expect(lines.every((line) => line.endsWith(';'))).to.equal(true);
    expect((await gribo(['answers', 'postgres'])).out).to.contain(
      '"content" bytea, "made" bytea, "known" boolean not null',
    );
    expect((await gribo(['answers', 'sqlite'])).out).to.contain(
      'create index "kept_answer_at" on "kept_answer" ("at")',
    );
  });

  it('says which databases there are', async () => {
    const { code, err } = await gribo(['answers', 'oracle']);
    expect([code, /postgres, mysql, sqlite/.test(err)]).to.deep.equal([2, true]);
  });
});
