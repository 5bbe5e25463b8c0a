import Link from 'next/link';
import { addDays } from '@/core/calendar/zone';
import { counted, weekdayAndTime } from '@/core/format';
import type { AlongForm } from '@/core/forms/message';
import type { ComposeView } from '@/core/views/compose';
import type { LocalDate } from '@/core/units';
import { DayInput } from '../parts/DayInput';

/** What goes along with a sending: the offer of a talk, why they get it, and the day to look again. */
export function Along({
  code,
  zone,
  today,
  talks,
  along,
  onChange,
}: {
  readonly code: string;
  readonly zone: string;
  readonly today: LocalDate;
  readonly talks: ComposeView['talks'];
  readonly along: AlongForm;
  readonly onChange: (along: AlongForm) => void;
}) {
  const box = 'accent-teal size-4';
  return (
    <fieldset className="border-line space-y-2 border-t pt-3">
      <legend className="sr-only">Along with it</legend>
      <label className="flex flex-wrap items-center gap-x-2">
        <input
          type="checkbox"
          className={box}
          disabled={talks.free === 0}
          checked={along.offersTalk}
          onChange={(e) => onChange({ ...along, offersTalk: e.target.checked })}
        />
        <span className="font-semibold">Offer a talk</span>
        <span className="text-muted text-[13px]">
          {talks.next == null ? (
            <>
              You have no free times.{' '}
              <Link href={`/c/${code}/talks`} className="text-teal underline">
                Give times
              </Link>
            </>
          ) : (
            `${counted(talks.free, 'free time')}, the first ${weekdayAndTime(talks.next, zone)}`
          )}
        </span>
      </label>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className={box}
          checked={along.saysWhy}
          onChange={(e) => onChange({ ...along, saysWhy: e.target.checked })}
        />
        Let them read in a line why they get it
      </label>
      <div className="flex flex-wrap items-center gap-2">
        <span>Look again on</span>
        <DayInput
          label="Day to look again"
          className="w-36"
          min={addDays(today, 1)}
          today={today}
          value={along.lookAgainOn ?? ''}
          onChange={(day) => onChange({ ...along, lookAgainOn: day || null })}
        />
        <span className="text-muted text-[13px]">
          {along.lookAgainOn ? 'Then they stand in Rounds, with what has happened since.' : 'Not at all.'}
        </span>
      </div>
    </fieldset>
  );
}
