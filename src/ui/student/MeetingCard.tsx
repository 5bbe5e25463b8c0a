import type { OwnMeeting } from '@/core/views/student';
import { dayAndTime, minutesText } from '@/core/format';
import { Panel } from '../parts/Panel';
import { Pieces } from '../session/Pieces';

/** What the student did in the last meeting of their section: what the instructor sees of it, too. */
export function MeetingCard({ meeting, zone }: { readonly meeting: OwnMeeting; readonly zone: string }) {
  const { from, running, check } = meeting;
  return (
    <Panel className="p-5">
      <h3 className="mb-1 font-serif text-lg font-semibold">
        {running ? 'Your class now' : 'Your last class'}: {minutesText(check.minutes)} on task
      </h3>
      <p className="text-muted mb-2 text-[13px]">{dayAndTime(from, zone)}. Your instructor sees the same.</p>
      {check.pieces.length === 0 ? <p>You opened nothing in this time.</p> : <Pieces check={check} />}
    </Panel>
  );
}
