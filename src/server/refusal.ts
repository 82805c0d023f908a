/** What a request asks for cannot be had: answered with this status and these words, and nothing of it is stored. */
export class Refusal extends Error {
  constructor(
    readonly status: 400 | 401 | 403 | 404 | 409 | 413 | 415 | 429 | 503,
    message: string,
  ) {
    super(message);
  }
}
