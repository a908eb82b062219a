// Asks one thing at a time, always for the last that was wanted; what came between is passed over.

export function latest(ask) {
  let wanted = null;
  let asking = null;
  const run = async () => {
    while (wanted !== null) {
      const now = wanted;
      wanted = null;
      await ask(now);
    }
    asking = null;
  };
  return async (want = null) => {
    if (want !== null) wanted = want;
    if (wanted !== null) asking ??= run();
    await asking;
  };
}
