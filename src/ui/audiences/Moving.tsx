'use client';
import { ArrowRight, Minus, Plus } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import type { AudiencesView } from '@/core/views/audiences';
import { classes, finger } from '../parts/classes';
import { Choose } from '../parts/Choose';

type Person = AudiencesView['people'][number];

interface Props {
  readonly code: string;
  readonly people: readonly Person[];
  readonly match: ReadonlySet<number>;
  readonly unknown: ReadonlySet<number>;
  /** Who was in it before the last change. */
  readonly before: ReadonlySet<number>;
  readonly added: ReadonlySet<number>;
  readonly removed: ReadonlySet<number>;
  readonly onAdd: (id: number) => void;
  readonly onTakeOut: (id: number) => void;
  readonly onRestore: (id: number) => void;
}

const icon = 'text-muted hover:text-ink grid size-6 place-items-center rounded max-sm:size-11';

/** Who is in an audience: who came and who left with the last change, and who was added or taken out by hand. */
export function Moving({
  code,
  people,
  match,
  unknown,
  before,
  added,
  removed,
  onAdd,
  onTakeOut,
  onRestore,
}: Props) {
  const [choosing, setChoosing] = useState('');
  const inside = people.filter((p) => match.has(p.id));
  const left = people.filter((p) => before.has(p.id) && !match.has(p.id) && !removed.has(p.id));
  const out = people.filter((p) => removed.has(p.id));
  const unsure = people.filter((p) => unknown.has(p.id));
  const others = people.filter((p) => !match.has(p.id) && !removed.has(p.id));
  return (
    <>
      <ul aria-label="In the audience" className="divide-line divide-y">
        {inside.map((p) => (
          <li key={p.id} className="flex items-center gap-2 px-3 py-1">
            <Link
              href={`/c/${code}/students/${p.id}`}
              className={classes('inline-block font-semibold hover:underline', finger)}
            >
              {p.name}
            </Link>
            <span className="text-muted text-[13px]">{p.section}</span>
            <span className="text-teal ml-auto text-[13px]">
              {added.has(p.id) ? 'added by hand' : before.has(p.id) ? null : 'came'}
            </span>
            <button
              type="button"
              aria-label={`Remove ${p.name}`}
              onClick={() => onTakeOut(p.id)}
              className={icon}
            >
              <Minus className="size-4" aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      {left.length > 0 ? (
        <ul
          aria-label="Left with the last change"
          className="border-line text-muted border-t px-3 py-1.5 text-[13px]"
        >
          {left.slice(0, MOST_LEFT).map((p) => (
            <li key={p.id} className="flex items-center gap-1.5">
              <ArrowRight className="size-3.5" aria-hidden /> {p.name} left
            </li>
          ))}
          {left.length > MOST_LEFT ? <li>and {left.length - MOST_LEFT} more left</li> : null}
        </ul>
      ) : null}
      {out.length > 0 ? (
        <ul aria-label="Removed by hand" className="border-line border-t px-3 py-1.5 text-[13px]">
          {out.map((p) => (
            <li key={p.id} className="flex items-center justify-between gap-2">
              <span className="text-muted">{p.name} is removed</span>
              <button type="button" className="text-teal font-semibold" onClick={() => onRestore(p.id)}>
                Restore
              </button>
            </li>
          ))}
        </ul>
      ) : null}
      {unsure.length > 0 ? (
        <details className="border-line border-t px-3 py-1.5 text-[13px]">
          <summary className="cursor-pointer">{unsure.length} not known: neither in it nor out of it</summary>
          <ul className="text-muted mt-1">
            {unsure.map((p) => (
              <li key={p.id}>{p.name}</li>
            ))}
          </ul>
        </details>
      ) : null}
      {others.length > 0 ? (
        <div className="border-line flex items-center gap-2 border-t px-3 py-2 text-[13px]">
          <Plus className="text-muted size-4" aria-hidden />
          <Choose
            small
            label="Add a student by hand"
            placeholder="Add a student by hand"
            value={choosing}
            options={others.map((p) => ({ value: String(p.id), label: p.name }))}
            onChange={(id) => {
              onAdd(Number(id));
              setChoosing('');
            }}
          />
        </div>
      ) : null}
    </>
  );
}
const MOST_LEFT = 12;
