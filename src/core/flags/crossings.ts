import { groupBy } from '../groupBy';
import type { Subject } from '../measures/measure';
import { judge } from '../rules/condition';
import { settingsFor } from './apart';
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

/**
 * The indicators that each student of a class crosses, by student, with the thresholds of the parts of the class they are
 * in. Too little data crosses nothing.
 */
export function crossings(
  students: readonly Subject[],
  settings: IndicatorSettings,
): Map<number, Crossing[]> {
  const found = new Map<number, Crossing[]>(students.map((s) => [s.id, []]));
  // Whoever is in the same parts has the same thresholds.
  const alike = groupBy(students, (s) => (settings.apart?.length ? (s.parts ?? []).join() : ''));
  for (const group of alike.values()) {
    const own = settingsFor(settings, group[0]!.parts ?? []);
    for (const kind of FLAG_KINDS) {
      const { watch, act, detail } = INDICATORS[kind];
      const acts = judge(act(own), group);
      const watches = judge(watch(own), group);
      group.forEach(({ id, measured }, i) => {
        const level = acts[i] ? 'act' : watches[i] ? 'watch' : null;
        if (level && measured) found.get(id)!.push({ kind, level, detail: detail(measured, own, level) });
      });
    }
  }
  return found;
}
