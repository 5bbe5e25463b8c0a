import { FILE_KINDS, type FileKind } from '@/core/course/records';
import { FILE_GUIDE } from '@/core/formats/fileGuide';
import { Panel } from '../parts/Panel';

/** The columns of each file, and an example of it to start from. */
export function FileGuide({
  code,
  examples,
}: {
  readonly code: string;
  readonly examples: readonly FileKind[];
}) {
  return (
    <Panel className="p-4">
      <h2 className="mb-2 font-serif text-lg font-semibold">What the files hold</h2>
      <div className="divide-line divide-y">
        {FILE_KINDS.map((kind) => (
          <details key={kind} className="py-1.5">
            <summary>
              <span className="font-semibold">{kind}.csv</span>{' '}
              <span className="text-muted text-[13px]">
                {FILE_GUIDE[kind]
                  .filter((c) => c.required)
                  .map((c) => c.name)
                  .join(', ')}
              </span>
            </summary>
            <table className="mt-2 text-[13px]">
              <tbody>
                {FILE_GUIDE[kind].map((c) => (
                  <tr key={c.name}>
                    <th className="pr-4 text-left align-top font-semibold">{c.name}</th>
                    <td className="text-muted pr-4 align-top">{c.required ? 'needed' : 'may be left out'}</td>
                    <td>{c.means}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </details>
        ))}
      </div>
      {examples.length > 0 ? (
        <p className="text-muted mt-3 text-[13px]">
          Examples to start from, the files of the demo course:{' '}
          {examples.map((kind, i) => (
            <span key={kind}>
              {i > 0 ? ', ' : ''}
              <a
                href={`/api/courses/${code}/examples/${kind}.csv`}
                download
                className="text-teal font-semibold hover:underline"
              >
                {kind}.csv
              </a>
            </span>
          ))}
          . Commas, semicolons or tabs; UTF-8 or UTF-16; CRLF or LF.
        </p>
      ) : null}
    </Panel>
  );
}
