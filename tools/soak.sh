#!/usr/bin/env bash
# The full counts of random cases, and properties on systems that no run of the tests has met: ROUNDS turns (20), each with a seed of its own. Ends at the
# first that fails, whose seed shows it again: SEED=… npx vitest run FILE.
cd "$(dirname "${BASH_SOURCE[0]}")/.." || exit 1
mapfile -t files < <(grep -rlE "fc\.assert\(|cases\(" --include=*.test.ts src)
for ((turn = 1; turn <= ${ROUNDS:-20}; turn++)); do
  seed=$((RANDOM * 32768 + RANDOM))
  printf 'turn %d, seed %d\n' "$turn" "$seed"
  SOAK=1 SEED=$seed npx vitest run --project core "${files[@]}" "$@" || exit 1
done
