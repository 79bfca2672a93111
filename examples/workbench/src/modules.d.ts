declare module '*.css';
declare module 'virtual:runner' {
  const source: string;
  export default source;
}
