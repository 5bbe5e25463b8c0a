import Link from 'next/link';
import type { CourseOutcome, FileCounts } from '@/core/views/intake';
import { COUNTED, total } from './counting';

/** The heads of the columns of counts. */
const CountHeads = () =>
  COUNTED.map((h) => (
    <th key={h} className="pr-6 text-right font-normal">
      {h}
    </th>
  ));

/** What an import did, file by file. */
export function Counts({
  counts,
  code,
  id,
}: {
  readonly counts: readonly FileCounts[];
  readonly code: string;
  readonly id: string;
}) {
  return (
    <table>
      <thead>
        <tr className="text-muted text-left">
          <th className="pr-6 font-normal">File</th>
          <CountHeads />
          <td />
        </tr>
      </thead>
      <tbody>
        {counts.map((c) => (
          <tr key={`${c.kind} ${c.file}`}>
            <td className="pr-6 font-semibold">{c.file}</td>
            <td className="pr-6 text-right">{c.added.toLocaleString('en')}</td>
            <td className="pr-6 text-right">{c.changed.toLocaleString('en')}</td>
            <td className="pr-6 text-right">{c.unchanged.toLocaleString('en')}</td>
            <td className="pr-6 text-right">{c.waiting.toLocaleString('en')}</td>
            <td className="pr-6 text-right">{c.rejected.toLocaleString('en')}</td>
            <td>
              {c.rejected > 0 ? (
                <a
                  href={`/api/courses/${code}/imports/${id}/${c.kind}`}
                  download
                  className="text-teal font-semibold hover:underline"
                >
                  Download the rejected
                </a>
              ) : null}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What an import of several courses did, course by course. */
export function CourseOutcomes({ outcomes }: { readonly outcomes: readonly CourseOutcome[] }) {
  return (
    <table>
      <thead>
        <tr className="text-muted text-left">
          <th className="pr-6 font-normal">Course</th>
          <CountHeads />
          <th className="font-normal">What became of it</th>
        </tr>
      </thead>
      <tbody>
        {outcomes.map(({ code, title, made, files, left }) => (
          <tr key={code}>
            <td className="max-w-80 pr-6">
              <span className="font-semibold">{code}</span> <span className="break-words">{title}</span>
            </td>
            {COUNTED.map((h) => (
              <td key={h} className="pr-6 text-right">
                {left ? '–' : total(files, h).toLocaleString('en')}
              </td>
            ))}
            <td>
              {left ? (
                <>Left out: {left}</>
              ) : (
                <Link href={`/c/${code}/rounds`} className="text-teal font-semibold hover:underline">
                  {made ? 'Made; open it' : 'Open it'}
                </Link>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
