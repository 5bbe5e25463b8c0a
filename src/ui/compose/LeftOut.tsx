'use client';
import { useState } from 'react';
import { counted, listed } from '@/core/format';
import { COOL_DOWN_DAYS } from '@/core/messages/limits';
import type { ComposeRecipient } from '@/core/views/compose';

const MOST_NAMES = 4;

/** "Ana Ruiz, Bo Li and 3 more" */
function namesOf(people: readonly ComposeRecipient[]): string {
  const some = people.slice(0, MOST_NAMES).map((p) => p.name);
  const more = people.length - some.length;
  return listed(more > 0 ? [...some, `${more} more`] : some);
}

interface Props {
  readonly lately: readonly ComposeRecipient[];
  readonly removed: readonly ComposeRecipient[];
  readonly withoutMail: readonly ComposeRecipient[];
  readonly checks: readonly { readonly name: string; readonly says: readonly string[] }[];
  readonly onTakeIn: (people: readonly ComposeRecipient[]) => void;
  readonly onShow: (name: string) => void;
}

/** Before it goes: who is left out and why, who gets no e-mail, and what would embarrass. */
export function LeftOut({ lately, removed, withoutMail, checks, onTakeIn, onShow }: Props) {
  const [all, setAll] = useState(false);
  const noAddress = withoutMail.filter((r) => !r.email);
  const turnedOff = withoutMail.filter((r) => r.email);
  const takeIn = (people: readonly ComposeRecipient[], label: string) => (
    <button type="button" className="text-teal font-semibold" onClick={() => onTakeIn(people)}>
      {label}
    </button>
  );
  const lines = [
    lately.length > 0 ? (
      <>
        Left out: {namesOf(lately)}, written to about the same in the last {COOL_DOWN_DAYS} days.{' '}
        {takeIn(lately, 'Write to them all the same')}
      </>
    ) : null,
    removed.length > 0 ? (
      <>
        Left out: {namesOf(removed)}, removed by you. {takeIn(removed, 'Restore')}
      </>
    ) : null,
    noAddress.length > 0 ? <>No e-mail for {namesOf(noAddress)}: no address. They read it here.</> : null,
    turnedOff.length > 0 ? (
      <>No e-mail for {namesOf(turnedOff)}: they have turned e-mail off. They read it here.</>
    ) : null,
  ].filter((line) => line != null);
  if (lines.length === 0 && checks.length === 0) return null;
  return (
    <div className="border-line space-y-1 border-t px-3 py-2 text-[13px]">
      {lines.map((line, i) => (
        <p key={i} className="text-muted">
          {line}
        </p>
      ))}
      {checks.length > 0 ? (
        <section aria-label="Look again before sending">
          <p className="text-plum font-semibold">
            Look again at {counted(checks.length, 'text')} before sending
          </p>
          <ul>
            {(all ? checks : checks.slice(0, MOST_NAMES)).map(({ name, says }) => (
              <li key={name}>
                <button type="button" className="text-teal font-semibold" onClick={() => onShow(name)}>
                  {name}
                </button>
                : {says.join(' ')}
              </li>
            ))}
          </ul>
          {!all && checks.length > MOST_NAMES ? (
            <button type="button" className="text-teal font-semibold" onClick={() => setAll(true)}>
              Show all
            </button>
          ) : null}
        </section>
      ) : null}
    </div>
  );
}
