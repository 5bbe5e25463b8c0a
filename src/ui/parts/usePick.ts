'use client';
import { usePathname } from 'next/navigation';
import { useOptimistic } from 'react';
import { dropAction, pickAction } from '@/actions/tray';
import { pickedFor, type Picked } from '@/core/acts/pick';
import { counted } from '@/core/format';
import { groupBy } from '@/core/groupBy';
import type { ViewFrame } from '@/core/views/frame';
import type { TrayItem } from '@/core/views/tray';
import type { Outcome } from '@/actions/run';
import { askChoice } from './Choice';
import { useAct } from './useAct';

/** Students to be selected, and why. */
export interface Picks extends Picked {
  readonly students: readonly number[];
}

const ADD = 'Add to the selection';
const ANEW = 'Start a new selection';

/** The view of an address, without the course and what is opened in it: "gradebook". */
const viewOf = (path: string): string => path.split('/')[3] ?? '';

/**
 * The one way to select students: into the selection tray with a reason, or out again. Shown at once. Selecting in another
 * view than before asks whether to add or to start anew.
 */
export function usePick({
  course: { code },
  tray,
  trayFrom,
}: Pick<ViewFrame, 'course' | 'tray' | 'trayFrom'>) {
  const { busy, act } = useAct();
  const source = viewOf(usePathname());
  const [picked, show] = useOptimistic(
    new Set(tray) as ReadonlySet<number>,
    (now, { students, how }: { students: readonly number[]; how: 'add' | 'anew' | 'drop' }) => {
      if (how === 'drop') return new Set([...now].filter((id) => !students.includes(id)));
      return new Set(how === 'anew' ? students : [...now, ...students]);
    },
  );
  /** @param alone they take the place of whoever is selected, without a question */
  const pickAll = async (
    picks: readonly Picks[],
    { alone = false, then }: { readonly alone?: boolean; readonly then?: () => void } = {},
  ) => {
    const students = picks.flatMap((p) => p.students);
    if (students.length === 0) return;
    const way =
      !alone && picked.size > 0 && trayFrom != null && trayFrom !== source
        ? await askChoice({
            title: `${counted(picked.size, 'student')} ${picked.size === 1 ? 'is' : 'are'} selected already`,
            description: 'They were selected in another view.',
            ways: [ADD, ANEW],
          })
        : ADD;
    if (way == null) return;
    const anew = alone ? picked.size > 0 : way === ANEW;
    const reasons = [...new Set(picks.map((p) => p.reason))];
    act(
      async () => {
        show({ students, how: anew ? 'anew' : 'add' });
        return pickAction({
          code,
          picks: picks.map((p) => ({ ...p, students: [...p.students] })),
          source,
          anew,
        });
      },
      {
        done: `${counted(students.length, 'student')} selected: ${reasons.slice(0, 2).join('; ')}${reasons.length > 2 ? ' …' : ''}.`,
        undo: (before) => takeBack(students, anew, before),
        then,
      },
    );
  };
  /** Takes a selection back: who was selected before is so again, for what they were. */
  const takeBack = (students: readonly number[], anew: boolean, before: readonly TrayItem[]) => {
    const had = before.map((item) => item.enrolmentId);
    const out = anew ? students : students.filter((id) => !had.includes(id));
    act(async (): Promise<Outcome<unknown>> => {
      show({ students: out, how: 'drop' });
      const dropped = await dropAction({ code, students: [...out] });
      if (!anew || !dropped.ok || before.length === 0) return dropped;
      show({ students: had, how: 'add' });
      const alike = groupBy(before, (item) => `${item.activityId} ${item.item} ${item.about} ${item.reason}`);
      const picks = [...alike.values()].map((list) => ({
        reason: list[0]!.reason,
        about: list[0]!.about,
        activityId: list[0]!.activityId,
        item: list[0]!.item,
        students: list.map((item) => item.enrolmentId),
      }));
      return pickAction({ code, picks, source: trayFrom ?? '', anew: false });
    });
  };
  const pick = (students: readonly number[], why: Picked | string) =>
    void pickAll([{ ...(typeof why === 'string' ? pickedFor(why) : why), students }]);
  const drop = (students: readonly number[]) =>
    act(async () => {
      show({ students, how: 'drop' });
      return dropAction({ code, students: [...students] });
    });
  const toggle = (student: number, why: Picked | string) =>
    picked.has(student) ? drop([student]) : pick([student], why);
  return { picked, pick, pickAll, drop, toggle, busy };
}
