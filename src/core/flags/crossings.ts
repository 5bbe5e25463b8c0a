import type { Subject } from '../measures/measure';
import { judge } from '../rules/condition';
import type { FlagDetail } from './detail';
import { FLAG_KINDS, type FlagKind, type IndicatorSettings } from './indicators';
import { INDICATORS } from './indicatorRules';
import type { FlagLevel } from './level';

/** An indicator over its threshold. */
export interface Crossing {
  readonly kind: FlagKind;
  readonly level: FlagLevel;
  readonly detail: FlagDetail;
}

/** The indicators that each student of a class crosses, by student. Too little data crosses nothing. */
export function crossings(
  students: readonly Subject[],
  settings: IndicatorSettings,
): Map<number, Crossing[]> {
  const found = new Map<number, Crossing[]>(students.map((s) => [s.id, []]));
  for (const kind of FLAG_KINDS) {
    const { watch, act, detail } = INDICATORS[kind];
    const acts = judge(act(settings), students);
    const watches = judge(watch(settings), students);
    students.forEach(({ id, measured }, i) => {
      const level = acts[i] ? 'act' : watches[i] ? 'watch' : null;
      if (level && measured) found.get(id)!.push({ kind, level, detail: detail(measured, settings, level) });
    });
  }
  return found;
}
