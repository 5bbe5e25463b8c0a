'use client';
import { lazy, Suspense } from 'react';
import { useAlive } from '../../parts/useAlive';
import { DocAsItWillLook } from './DocAsItWillLook';
import type { EditorProps } from './editorProps';

const Editor = lazy(() => import('./Editor'));

/** Where a message is written, fetched beside the page; until it is there the text stands in its place, as it will look. */
export function MessageEditor(props: EditorProps) {
  const alive = useAlive();
  const waiting = <Waiting doc={props.doc} />;
  return <Suspense fallback={waiting}>{alive ? <Editor {...props} /> : waiting}</Suspense>;
}

const Waiting = ({ doc }: Pick<EditorProps, 'doc'>) => (
  <div role="status" aria-label="Loading" className="border-edge/70 bg-panel rounded-md border">
    <div className="border-line h-[33px] border-b max-sm:h-[49px]" />
    <DocAsItWillLook doc={doc} />
  </div>
);
