import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';

describe('the demo', () => {
  it('ends by itself and shows a stored row, shapes, a list, an error and sizes', () => {
    const demo = fileURLToPath(new URL('../dist/demo.js', import.meta.url));
    const out = execFileSync(process.execPath, [demo], { encoding: 'utf8' });
    const sections = out.split(/\n\n(?=\d\. )/).slice(1);
    expect(sections).to.have.length(8);
    const [stored, card, detail, list, error, berths, endpoints, sizes] = sections;
    expect(stored).to.contain('"masterPhone": "+00 555');
    for (const shown of [card, detail, list]) expect(shown).to.not.match(/masterPhone|\+00 555/);
    expect(card).to.contain('"flag": ').and.contain('"operatorName": ');
    expect(detail).to.contain('"portCalls": [').and.contain('"age": ');
    // One statement, and no column that the card does not show or join by.
    expect(list?.match(/^select /gm)).to.have.length(1);
    expect(list).to.contain('"t0"."flag_state"').and.contain('left join "operator"');
    expect(list).to.not.match(/notes|master_phone|country/);
    expect(error).to.contain('VesselDetail.portCalls[0].eta: expected a Date, got "soon"');
    const codes = berths?.split('\n').filter((line) => line.includes('"gateCode"'));
    expect(codes).to.have.length(1);
    expect(codes?.[0]).to.match(/^berths\.read for harbourMaster/);
    expect(endpoints).to.match(
      /^portCalls +\/port-calls +list read; create replace amend cancel reserve \(agent, harbourMaster\); remove \(harbourMaster\)$/m,
    );
    expect(endpoints).to.match(
      /^cargo +\/port-calls\/\{portCall\}\/cargo +list; create \(agent, harbourMaster\)$/m,
    );
    expect(endpoints).to.match(/^pilots .* list read \(harbourMaster\)$/m);
    expect(sizes).to.match(/stored [\d,]+ {3}sent [\d,]+ {3}\d\d % less/);
  });
});
