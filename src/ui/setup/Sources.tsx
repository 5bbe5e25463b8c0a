'use client';
import { useState } from 'react';
import { createKeyAction, revokeKeyAction } from '@/actions/setup';
import type { NewCredential } from '@/core/views/live';
import type { SetupView } from '@/core/views/setup';
import { Button } from '../parts/Button';
import { dayAndTime } from '@/core/format';
import { Nothing, Panel } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';
import { useAct } from '../parts/useAct';
import { useAsk } from '../parts/useAsk';
import { EditSheet } from './EditSheet';
import { TextField } from '../parts/fields';
import { useYupForm } from '../parts/useYupForm';

const loadKeyForm = () => import('@/core/forms/setup').then((m) => m.keyForm);

/** What of the setup is drawn here. */
type Drawn = Pick<SetupView, 'course' | 'keys'>;

/** Keys by which other systems send what students do, as it happens. */
export function Sources({ view }: { readonly view: Drawn }) {
  const { code, zone } = view.course;
  const [asking, setAsking] = useState(false);
  const [made, setMade] = useState<NewCredential | null>(null);
  const { busy, act } = useAct();
  const { ask, asked } = useAsk();
  return (
    <div className="space-y-4">
      {asked}
      {made ? (
        <Panel className="border-amber! space-y-2 p-4">
          <h2 className="font-semibold">The secret is shown this once: copy it now</h2>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 break-all">
            <dt className="text-muted">Endpoint</dt>
            <dd className="font-mono">{made.endpoint}</dd>
            <dt className="text-muted">Key</dt>
            <dd className="font-mono">{made.key}</dd>
            <dt className="text-muted">Secret</dt>
            <dd className="font-mono">{made.secret}</dd>
          </dl>
          <Button onClick={() => setMade(null)}>I have it</Button>
        </Panel>
      ) : null}
      <Panel>
        <div className="border-line border-b p-4">
          <p>
            Another system sends statements (xAPI 1.0.3 or 2.0.0) with a key of this course. Open views show
            them within two seconds.
          </p>
        </div>
        {view.keys.length === 0 ? (
          <Nothing title="No key yet">
            Make one for each system, so that each can be deleted by itself.
          </Nothing>
        ) : (
          <Table
            head={[
              { label: 'For' },
              { label: 'Key' },
              { label: 'Made' },
              { label: 'Made by' },
              { label: '' },
            ]}
          >
            {view.keys.map((k) => (
              <tr key={k.id}>
                <Cell className="font-semibold">{k.label}</Cell>
                <Cell className="font-mono break-all">{k.key}</Cell>
                <Cell className="whitespace-nowrap">{dayAndTime(k.at, zone)}</Cell>
                <Cell>{k.by ?? 'the settings'}</Cell>
                <Cell className="text-right">
                  {k.revokedAt == null ? (
                    <Button
                      small
                      disabled={busy}
                      aria-label={`Revoke ${k.label}`}
                      onClick={() =>
                        ask({
                          title: `Revoke the key for ${k.label}?`,
                          description: 'What still uses it is refused at once.',
                          yes: 'Revoke it',
                          then: () => act(() => revokeKeyAction({ code, id: k.id }), { done: 'Revoked' }),
                        })
                      }
                    >
                      Revoke
                    </Button>
                  ) : (
                    <span className="text-muted italic">revoked {dayAndTime(k.revokedAt, zone)}</span>
                  )}
                </Cell>
              </tr>
            ))}
          </Table>
        )}
        <div className="border-line border-t p-3">
          <Button onClick={() => setAsking(true)}>Make a key</Button>
        </div>
      </Panel>
      <Panel className="p-4">
        <h2 className="mb-2 font-semibold">Export the whole course</h2>
        <ul className="space-y-1">
          {(
            [
              ['oneroster', 'OneRoster 1.1 package', 'roster, classes, assignments and results'],
              ['xapi', 'xAPI statements', 'every event, one a line'],
              ['csv', 'CSV files', 'all of it, as the import reads it'],
              ['xlsx', 'Workbook (.xlsx)', 'all but the events, a sheet a table'],
            ] as const
          ).map(([format, label, holds]) => (
            <li key={format}>
              <a
                href={`/api/courses/${code}/export/${format}`}
                download
                className="text-teal font-semibold hover:underline"
              >
                {label}
              </a>{' '}
              <span className="text-muted">{holds}</span>
            </li>
          ))}
        </ul>
      </Panel>
      {asking ? <KeySheet code={code} onClose={() => setAsking(false)} onMade={setMade} /> : null}
    </div>
  );
}

function KeySheet({
  code,
  onClose,
  onMade,
}: {
  readonly code: string;
  readonly onClose: () => void;
  readonly onMade: (credential: NewCredential) => void;
}) {
  const { control, handleSubmit } = useYupForm(loadKeyForm, { label: '' });
  const { busy, act } = useAct();
  return (
    <EditSheet
      title="Make a key"
      busy={busy}
      saveLabel="Make it"
      onClose={onClose}
      onSave={handleSubmit(({ label }) =>
        act(() => createKeyAction({ code, label }), {
          then: (credential) => {
            onMade(credential);
            onClose();
          },
        }),
      )}
    >
      <TextField control={control} name="label" label="What it is for" hint="Like: course platform" />
    </EditSheet>
  );
}
