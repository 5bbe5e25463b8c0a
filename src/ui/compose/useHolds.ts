'use client';
import { useMemo } from 'react';
import { conditionsIn, type MessageDoc } from '@/core/messages/doc';
import { audienceMembers, faultsIn, keysIn } from '@/core/people/savedAudience';
import type { Selection } from '@/core/rules/selection';
import type { ComposeView } from '@/core/views/compose';
import { useCells } from '../condition/useCells';

const NONE = {};

/** Tells whether a condition in one of some texts holds of a student; null while that is being found out. */
export function useHolds(
  view: Pick<ComposeView, 'course' | 'about' | 'order'>,
  docs: readonly MessageDoc[],
): ((where: Selection, id: number) => boolean) | null {
  const conditions = docs.flatMap(conditionsIn).filter((where) => faultsIn(where, view.about).length === 0);
  const cells = useCells(view.course.code, NONE, [...new Set(conditions.flatMap(keysIn))]);
  const asked = JSON.stringify(conditions);
  return useMemo(() => {
    if (!cells) return null;
    const known = new Map(
      (JSON.parse(asked) as Selection[]).map((where) => {
        const { match } = audienceMembers(
          { where, added: [], removed: [] },
          view.order,
          (key) => cells[key] ?? [],
        );
        return [JSON.stringify(where), new Set(match)];
      }),
    );
    return (where, id) => known.get(JSON.stringify(where))?.has(id) ?? false;
  }, [cells, asked, view.order]);
}
