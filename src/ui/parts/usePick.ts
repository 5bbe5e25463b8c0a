'use client';
import { useOptimistic } from 'react';
import { dropAction, pickAction } from '@/actions/tray';
import { counted } from '@/core/format';
import { useAct } from './useAct';

/** The one way to pick students up: into the selection tray with a reason, or out again. Shown at once. */
export function usePick(code: string, tray: readonly number[]) {
  const { busy, act } = useAct();
  const [picked, show] = useOptimistic(
    new Set(tray) as ReadonlySet<number>,
    (now, { students, on }: { students: readonly number[]; on: boolean }) =>
      new Set(on ? [...now, ...students] : [...now].filter((id) => !students.includes(id))),
  );
  const pick = (students: readonly number[], reason: string) => {
    if (students.length === 0) return;
    act(
      async () => {
        show({ students, on: true });
        return pickAction({ code, students: [...students], reason });
      },
      { done: `${counted(students.length, 'student')} picked: ${reason}.`, undo: () => drop(students) },
    );
  };
  const drop = (students: readonly number[]) =>
    act(async () => {
      show({ students, on: false });
      return dropAction({ code, students: [...students] });
    });
  const toggle = (student: number, reason: string) =>
    picked.has(student) ? drop([student]) : pick([student], reason);
  return { picked, pick, drop, toggle, busy };
}
