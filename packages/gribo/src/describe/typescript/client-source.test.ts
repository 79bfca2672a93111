import { expect } from 'chai';
import { clientSource, contractOf, typesSource } from '../../index.js';
import { store } from '../../testing/crates.js';

describe('the sources of types and clients', () => {
  it('have an interface for each shape and input, and maps from endpoints', () => {
    const source = typesSource(contractOf(store));
    expect(source).to.contain('export interface CrateOffice {').and.contain('export interface NewCrate {');
    expect(source).to.contain('  /** What is painted on it. */\n  readonly name: string;');
    expect(source).to.contain('readonly kind: "box" | "bag" | null;');
    expect(source).to.contain(
      '  /** A time of day, `HH:MM:SS`. Only where `more` is asked for. */\n  readonly more?: string;',
    );
    expect(source).to.contain(
      'readonly "crates.read": { readonly "": Crate; readonly public: Crate; readonly office: CrateOffice };',
    );
    expect(source).not.to.match(/^import/m);
    expect(clientSource(contractOf(store), './api-types.js'))
      .to.contain('"crates.amend": ["PATCH", "/crates/{id}", "body"],')
      .and.contain('from "./api-types.js";');
  });
});
