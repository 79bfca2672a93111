/** Answers a request. It never throws: what goes wrong is a response too. */
export type FetchHandler = (request: Request) => Promise<Response>;
