const byteUnits = ['B', 'kB', 'MB', 'GB', 'TB'] as const;

/** Bytes in words, SI units (powers of 1000, as IEC 80000-13 has it): `184 kB`, `21.4 MB`. */
export function sizeInWords(sizeBytes: number): string {
  let value = sizeBytes;
  let unit = 0;
  while (value >= 999.5 && unit < byteUnits.length - 1) {
    value /= 1000;
    unit += 1;
  }
  const digits = unit === 0 || value >= 99.95 ? 0 : 1;
  return `${value.toFixed(digits)} ${byteUnits[unit]}`;
}

/** A speed in words: `21.4 MB a second`; below a kilobyte it is hardly moving, and is not counted. */
export const speedInWords = (bytesPerSecond: number): string =>
  bytesPerSecond < 1000 ? 'under 1 kB a second' : `${sizeInWords(bytesPerSecond)} a second`;

/** A count with its noun: `1 paper`, `2 papers`, `12,000 papers`. */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count.toLocaleString('en-GB')} ${count === 1 ? one : many}`;
}

/** Time left in words, rounded so that it does not flicker: `under 5 s`, `40 s`, `3 min`, `2 h`. */
export function timeLeftInWords(seconds: number): string {
  if (seconds < 5) return 'under 5 s';
  if (seconds < 55) return `${Math.ceil(seconds / 5) * 5} s`;
  if (seconds < 3600) return `${Math.max(1, Math.round(seconds / 60))} min`;
  return `${Math.round(seconds / 360) / 10} h`;
}

/** One paper by its title, several by their number: “Minutes”, or 12 papers. */
export const papersInWords = (papers: readonly { readonly title: string }[]): string =>
  papers.length === 1 && papers[0] ? `“${papers[0].title}”` : counted(papers.length, 'paper');
