/**
 * How many random cases a check tries: `ordinary` in every run of the tests, `soak` with SOAK=1 (`npm run soak`). What has
 * been found is kept as a test of its own, so that an ordinary run holds it too.
 */
export const cases = (ordinary: number, soak: number): number => (process.env.SOAK ? soak : ordinary);
