declare module '*.css';
declare module 'virtual:runner' {
  const source: string;
  export default source;
}

declare module '*?raw' {
  const text: string;
  export default text;
}
