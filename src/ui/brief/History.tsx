import { hasNotArrived, isOnTheWay } from '@/core/messages/mailState';
import { localDate } from '@/core/calendar/zone';
import type { BriefView } from '@/core/views/brief';
import type { LocalDate } from '@/core/units';
import { firstLine, shortDay } from '@/core/format';

interface Line {
  readonly day: LocalDate;
  readonly key: string;
  readonly text: string;
}

/** What has been done about a student, the newest first: messages, plans and their ticks, marks, closed flags. */
function linesOf(brief: BriefView): Line[] {
  const day = (at: number) => localDate(at, brief.zone);
  const lines: Line[] = [];
  for (const s of brief.sent) {
    const mail = isOnTheWay(s.mailState)
      ? ', e-mail on its way'
      : hasNotArrived(s.mailState)
        ? ', e-mail did not arrive'
        : '';
    const read =
      s.goesAt != null
        ? `goes ${shortDay(day(s.goesAt))}`
        : s.readAt == null
          ? 'not read yet'
          : `read ${shortDay(day(s.readAt))}`;
    lines.push({
      day: day(s.at),
      key: `m${s.recipientId}`,
      text: `Message “${s.subject}” (${s.reason}): ${read}${s.goesAt == null ? mail : ''}`,
    });
  }
  for (const a of brief.answers) {
    lines.push({
      day: day(a.at),
      key: `a${a.id}`,
      text: `Answered${a.via === 'mail' ? ' by e-mail' : ''}: “${firstLine(a.body, 80)}”`,
    });
  }
  for (const p of brief.plans) {
    const done = p.steps.filter((s) => s.doneAt != null).length;
    lines.push({
      day: day(p.at),
      key: `p${p.id}`,
      text: `Study plan: ${done} of ${p.steps.length} steps ticked off`,
    });
    for (const s of p.steps) {
      if (s.doneAt != null)
        lines.push({ day: day(s.doneAt), key: `s${s.id}`, text: `Ticked off “${s.title}”` });
    }
  }
  brief.marks.forEach((m, i) => {
    const text =
      m.action === 'put off'
        ? `Put off until ${shortDay(m.until!)} by ${m.by}`
        : `Seen by ${m.by}: ${m.reason}`;
    lines.push({ day: m.on, key: `k${i}`, text });
  });
  brief.pastFlags.forEach((f, i) => {
    lines.push({
      day: f.closedOn!,
      key: `f${i}`,
      text: `“${f.kind}” cleared; it was open since ${shortDay(f.openedOn)}`,
    });
  });
  return lines.sort((a, b) => (a.day < b.day ? 1 : a.day > b.day ? -1 : 0));
}

export function History({ brief, most }: { readonly brief: BriefView; readonly most?: number }) {
  const lines = linesOf(brief);
  if (lines.length === 0) return <p className="text-muted">Nothing has been done about this student yet.</p>;
  const shown = most == null ? lines : lines.slice(0, most);
  return (
    <ul className="space-y-1">
      {shown.map((line) => (
        <li key={line.key} className="flex gap-3 text-[13px]">
          <span className="text-muted w-12 shrink-0">{shortDay(line.day)}</span>
          <span className="min-w-0">{line.text}</span>
        </li>
      ))}
      {shown.length < lines.length ? (
        <li className="text-muted text-xs">{lines.length - shown.length} more on the student’s page</li>
      ) : null}
    </ul>
  );
}
