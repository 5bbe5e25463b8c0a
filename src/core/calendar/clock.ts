/** "18:30" of minutes after midnight. */
export const clockText = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;

/** Minutes after midnight of "18:30", "6.05", "1830" or "18"; null for what is no time of a day. */
export function clockMinute(text: string): number | null {
  const [, h, m = '0'] = /^(\d{1,2})(?:[:.]?(\d{2}))?$/.exec(text.trim()) ?? [];
  if (!h || Number(h) > 23 || Number(m) > 59) return null;
  return Number(h) * 60 + Number(m);
}
