declare module '*.css';
declare module 'virtual:runner' {
  const source: string;
  export default source;
}

declare module '*?raw' {
  const text: string;
  export default text;
}

declare module 'virtual:declarations' {
  const files: Readonly<Record<string, string>>;
  export default files;
}

declare module '@ts-morph/common/dist/typescript.js' {
  import { ts } from '@ts-morph/common';
  export default ts;
}
