import { expect } from 'chai';
import { gribo } from '../testing/run-gribo.js';

describe('gribo show --sql', () => {
  it('prints the statements with their times: for one row one, with its lists in it', async () => {
    const { out } = await gribo(['show', 'vessels.read', '--id', '3', '--sql']);
    expect(out.match(/^select /gm)).to.have.length(1);
    expect(out)
      .to.match(/^left join "operator" as "t1"/m)
      .and.match(
        /^ {4}where "t2"\."vessel_id" = "t0"\."id" and .*\n {4}order by "t2"\."id"\) as q\) as "c16"$/m,
      )
      .and.match(/^with "announced", 3, 1; \d+\.\d ms$/m);
    expect(out).to.not.contain('master_phone');
    // However long its conditions are, nothing of a statement runs over the edge, and no name is torn apart.
    const call =
      'show portCalls.read --id d8acec86-e246-4130-be76-da0a4a84cf75 --audience agent --with cargo --sql';
    const lines = (await gribo(call.split(' '))).out.split('\n');
    expect(lines.filter((line) => line.length > 100)).to.deep.equal([]);
    expect(lines.filter((line) => (line.match(/"/g) ?? []).length % 2 === 1)).to.deep.equal([]);
    expect(lines.some((line) => /^ {8}.*"s1"\./.test(line))).to.equal(true);
  });
});
