import type { SourceWriter } from '../../codegen/source-writer.js';
import type { ColumnKind } from '../../plan/column-type.js';
import type { ConversionPlan } from '../../plan/conversion.js';

/** A function's source, and the helper that it calls. */
export interface ConversionSource {
  readonly source: string;
  readonly helper: string | null;
}

const whole = (setting: unknown): string => String(Number(setting));

const calling = (helper: string, setting?: unknown): ConversionSource => ({
  source: setting === undefined ? helper : `(v)=>${helper}(v,${whole(setting)})`,
  helper,
});

const plain = (source: string): ConversionSource => ({ source, helper: null });

/** The source of what a conversion does with values of a kind. */
export const conversionSource = (
  { name, settings }: ConversionPlan,
  kind: ColumnKind,
  out: SourceWriter,
): ConversionSource => {
  switch (name) {
    case 'shorten':
      return calling('shortened', settings['length']);
    case 'masked':
      return calling('maskedText', settings['showLast']);
    case 'rounded':
      return calling(kind === 'decimal' ? 'roundedDecimal' : 'roundedNumber', settings['places']);
    case 'upper':
      return plain('(v)=>v.toUpperCase()');
    case 'lower':
      return plain('(v)=>v.toLowerCase()');
    case 'dateOnly':
      return plain('(v)=>v.toISOString().slice(0,10)');
    case 'epochSeconds':
      return plain('(v)=>Math.floor(v.getTime()/1000)');
    case 'asNumber':
      return kind === 'bigint' ? calling('exactNumber') : plain('Number');
    case 'asText':
      return plain('String');
    case 'labelled': {
      const pairs = Object.entries(settings['labels'] as Readonly<Record<string, string>>);
      const entries = pairs.map(([choice, label]) => `[${out.quoted(choice)},${out.quoted(label)}]`);
      return plain(`((labels)=>(v)=>labels.get(v))(new Map([${entries.join()}]))`);
    }
    default:
      return name satisfies never;
  }
};
