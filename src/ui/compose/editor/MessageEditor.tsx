'use client';
import dynamic from 'next/dynamic';
import type { EditorProps } from './editorProps';

/** Where a message is written, fetched beside the page; its place is kept until it is there. */
export const MessageEditor = dynamic<EditorProps>(() => import('./Editor'), {
  ssr: false,
  loading: () => (
    <div role="status" aria-label="Loading" className="border-line bg-panel min-h-72 rounded-md border" />
  ),
});
