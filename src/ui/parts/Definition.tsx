'use client';
import { useLater } from './useLater';

const loadBox = () => import('./DefinitionBox');
const look =
  'within no-print text-muted hover:text-ink -my-1 inline-grid size-6 shrink-0 place-items-center align-middle';
const sign = (
  <span className="border-edge/60 grid size-4 place-items-center rounded-full border font-serif text-[10px] leading-none italic">
    i
  </span>
);

/** What a figure means, behind a small “i” beside its name. */
export function Definition({ of, children }: { readonly of: string; readonly children: string }) {
  const { Part, ask } = useLater(loadBox);
  const name = `What “${of}” means`;
  if (Part)
    return (
      <Part name={name} look={look} sign={sign}>
        {children}
      </Part>
    );
  return (
    <button
      type="button"
      aria-label={name}
      aria-haspopup="dialog"
      aria-expanded={false}
      onClick={ask}
      className={look}
    >
      {sign}
    </button>
  );
}
