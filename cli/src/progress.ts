/** Milliseconds of work before anything is said, and between two reports. */
const SILENCE = 1000;
const INTERVAL = 500;

/** Reports progress on standard error for work over a second: one line that changes, or in a log one line each report. */
export function progressOn(stream: NodeJS.WriteStream): {
  readonly report: (share: number, what: string) => void;
  readonly end: () => void;
} {
  const start = performance.now();
  let last = start + SILENCE - INTERVAL;
  let shown = false;
  return {
    report(share, what) {
      const now = performance.now();
      if (now - last < INTERVAL) return;
      last = now;
      const text = `${what}: ${Math.round(share * 100)} %`;
      stream.write(stream.isTTY ? `\r\u001b[K${text}` : `${text}\n`);
      shown = stream.isTTY;
    },
    end() {
      if (shown) stream.write('\r\u001b[K');
      shown = false;
    },
  };
}
