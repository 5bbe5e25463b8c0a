import Link from 'next/link';
import { listed, weekdayAndTime } from '@/core/format';
import type { CourseHead } from '@/core/views/courseHead';
import type { OccasionLine } from '@/core/views/rules';

/** Of whom a rule speaks, about what, and the numbers of that moment. */
export function OccasionHead({
  course: { code, zone },
  line,
}: {
  readonly course: CourseHead;
  readonly line: OccasionLine;
}) {
  return (
    <p>
      <Link href={`/c/${code}/students/${line.enrolmentId}`} className="text-teal font-semibold">
        {line.name}
      </Link>{' '}
      · {line.rule}
      {line.assignment ? ` · ${line.assignment.title}` : ''}
      <span className="text-muted block text-[13px]">
        {weekdayAndTime(line.at, zone)}
        {line.facts.length > 0 ? `: ${listed(line.facts)}` : ''}
        {line.why ? ` · ${line.why}` : ''}
      </span>
    </p>
  );
}
