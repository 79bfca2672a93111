import type { SourceWriter } from '../../codegen/source-writer.js';
import type { ConversionPlan } from '../../plan/conversion.js';
import { kebabCase } from '../../util/kebab-case.js';

/** Where stand-alone serializers take what a conversion does from: its own file, by its name. */
const CONVERSIONS = 'gribo/conversions';

/** The import of what a conversion does, under a name of the module's. */
export const conversionImport = ({ name }: ConversionPlan, local: string, out: SourceWriter): string =>
  `import{apply as ${local}}from${out.quoted(`${CONVERSIONS}/${kebabCase(name)}`)};`;
