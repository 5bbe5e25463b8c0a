import type { BesideView } from '@/core/views/brief';
import { counted, shortDay } from '@/core/format';

/** Days of lateness and absence named before the rest is only counted. */
const NAMED = 6;

/** What is on record beside work and activity: the register, referrals, credits and exams. */
export function Beside({ beside }: { readonly beside: BesideView }) {
  const { attendance, referrals, requirements } = beside;
  if (!attendance && referrals.length + requirements.length === 0)
    return <p className="text-muted">No attendance, referrals, credits or exams have been imported.</p>;
  return (
    <dl className="space-y-1.5">
      {attendance ? <Register attendance={attendance} /> : null}
      {requirements.map((r) => (
        <div key={r.requirement}>
          <dt className="inline font-semibold">{r.requirement}: </dt>
          <dd className="inline">
            {r.kind === 'credits'
              ? `${r.earned} of ${r.needed}, ${r.earned >= r.needed ? 'complete' : `${r.needed - r.earned} short`}`
              : `${r.earned} points where ${r.needed} are needed, ${r.earned >= r.needed ? 'passed' : 'not passed'}`}
          </dd>
        </div>
      ))}
      {referrals.map((r) => (
        <div key={`${r.day} ${r.reason}`}>
          <dt className="inline font-semibold">Conduct referral, {shortDay(r.day)}: </dt>
          <dd className="inline">
            {r.reason}
            <span className="text-muted"> {r.outcome ? `(${r.outcome})` : '(open)'}</span>
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Register({ attendance }: { readonly attendance: NonNullable<BesideView['attendance']> }) {
  const { counts, exceptions } = attendance;
  const meetings = Object.values(counts).reduce((sum, n) => sum + n, 0);
  const named = exceptions.slice(0, NAMED).map((e) => `${e.attendance} ${shortDay(e.day)}`);
  return (
    <div>
      <dt className="inline font-semibold">Attendance: </dt>
      <dd className="inline">
        at {counts.present + counts.late} of {counted(meetings, 'meeting')}
        {counts.late > 0 ? `, late at ${counts.late}` : ''}
        {counts.excused > 0 ? `, excused from ${counts.excused}` : ''}
        {named.length > 0 ? (
          <span className="text-muted">
            {' '}
            ({named.join(', ')}
            {exceptions.length > NAMED ? ` and ${exceptions.length - NAMED} before` : ''})
          </span>
        ) : null}
      </dd>
    </div>
  );
}
