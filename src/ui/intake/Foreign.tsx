'use client';
import { useState } from 'react';
import type { Mapping } from '@/core/course/mapping';
import { kindOfShape } from '@/core/course/mapping';
import type { ImportPreview } from '@/core/views/intake';
import { Button } from '../parts/Button';
import { MapFile } from './MapFile';

/** The tables of other makes in an upload: those that were read, and those of which somebody has to say how. */
export function Foreign({
  preview,
  busy,
  comesAgain,
  onRead,
}: {
  readonly preview: ImportPreview;
  readonly busy: boolean;
  /** Whether the file came by itself: those that follow are read like it. */
  readonly comesAgain: boolean;
  readonly onRead: (id: string, name: string, mapping: Mapping, saveAs: string | null) => void;
}) {
  const [again, setAgain] = useState<readonly string[]>([]);
  const { id } = preview;
  if (!id) return null;
  return preview.foreign.map((file) =>
    file.read && !again.includes(file.name) ? (
      <p key={file.name} className="flex flex-wrap items-center gap-3">
        <span>
          <span className="font-semibold break-all">{file.name}</span> is read as{' '}
          {kindOfShape(file.mapping.shape)}
          {file.saved ? `, as remembered under “${file.saved}”` : ', as you said'}.
        </span>
        <Button small onClick={() => setAgain([...again, file.name])}>
          Change how it is read
        </Button>
      </p>
    ) : (
      <MapFile
        key={file.name}
        file={file}
        works={preview.works}
        busy={busy}
        comesAgain={comesAgain}
        onRead={(mapping, saveAs) => {
          setAgain(again.filter((n) => n !== file.name));
          onRead(id, file.name, mapping, saveAs);
        }}
      />
    ),
  );
}
