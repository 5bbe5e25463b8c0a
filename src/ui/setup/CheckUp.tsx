import Link from 'next/link';
import type { SetupView } from '@/core/views/setup';
import { buttonClasses } from '../parts/Button';
import { Nothing, Panel } from '../parts/Panel';

const SHOWN = 8;

/** What will make figures mislead, why, and the way to mend it. */
export function CheckUp({ view }: { readonly view: SetupView }) {
  const { findings, course } = view;
  if (findings.length === 0)
    return (
      <Panel>
        <Nothing title="All in place">Come back after changing dates, weights or people.</Nothing>
      </Panel>
    );
  return (
    <ul className="space-y-2">
      {findings.map((f) => (
        <li key={f.what}>
          <Panel className="flex flex-wrap items-start justify-between gap-3 p-4">
            <div className="min-w-0 flex-1">
              <h2 className="font-semibold">{f.sentence}</h2>
              <p className="text-muted">{f.why}</p>
              {f.names.length > 0 ? (
                <p className="mt-1 text-[13px] break-words">
                  {f.names.slice(0, SHOWN).join(', ')}
                  {f.names.length > SHOWN ? ` and ${f.names.length - SHOWN} more` : ''}
                </p>
              ) : null}
            </div>
            <Link
              href={
                f.part === 'import' ? `/c/${course.code}/import` : `/c/${course.code}/setup?part=${f.part}`
              }
              className={buttonClasses('plain')}
            >
              Fix
            </Link>
          </Panel>
        </li>
      ))}
    </ul>
  );
}
