import fc from "fast-check";

/*
 * Properties try the same random systems at every run, so that what passed passes again; `npm run soak` tries others. What
 * fails is told as it was met, with its seed: a system has hundreds of fields, and looking for the smallest that still fails
 * was seen to go on without an end (most likely it once kept a run of all tests from ending). SHRINK=1 looks for it all
 * the same, as long as the limit lets it.
 */
const { SEED, SHRINK, SOAK } = process.env;
fc.configureGlobal({
  seed: SEED === undefined ? 20_261 : Number(SEED),
  endOnFailure: !SHRINK,
  // One that goes on for ever fails, too.
  interruptAfterTimeLimit: SOAK ? 1_200_000 : 200_000,
  markInterruptAsFailure: true,
});
