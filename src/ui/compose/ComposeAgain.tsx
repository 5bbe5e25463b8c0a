'use client';
import { useState } from 'react';
import { parseJson } from '@/core/formats/json';
import { draftForm, type DraftForm } from '@/core/forms/message';
import type { ComposeView } from '@/core/views/compose';
import { Compose } from './Compose';
import { keptDraft } from './keptDraft';

/** The draft that this tab kept; null if there is none, or it is of another version of the page. */
function readDraft(code: string): DraftForm | null {
  const read = parseJson(keptDraft(code) ?? '');
  return read.ok && draftForm.isValidSync(read.value, { strict: true }) ? read.value : null;
}

/** The page of `ComposeBack`. */
export default function ComposeAgain({
  view,
  withPlan,
}: {
  readonly view: ComposeView;
  readonly withPlan: boolean;
}) {
  const [start] = useState(() => readDraft(view.course.code));
  return <Compose view={view} withPlan={withPlan} start={start} />;
}
