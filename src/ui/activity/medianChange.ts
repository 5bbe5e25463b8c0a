import type { ActivityView } from '@/core/views/activity';

/** ", up 12 %" on the window before; nothing where there is none. */
export function medianChange({ comparedMedians: both }: ActivityView): string {
  if (!both || both.before <= 0) return '';
  const per = Math.round((100 * (both.now - both.before)) / both.before);
  return `, ${per >= 0 ? 'up' : 'down'} ${Math.abs(per)} %`;
}
