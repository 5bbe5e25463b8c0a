'use client';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { saveGroupAction } from '@/actions/setup';
import type { GroupForm } from '@/core/forms/setup';
import type { SetupView } from '@/core/views/setup';
import { Button } from '../parts/Button';
import { inputClasses } from '../parts/Field';
import { Nothing, Panel } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';
import { EditSheet } from './EditSheet';
import { TextField, TicksField } from '../parts/fields';
import { useEdited } from './useEdited';

const loadGroupForm = () => import('@/core/forms/setup').then((m) => m.groupForm);

const EMPTY: GroupForm = { id: null, name: '', memberIds: [], staffIds: [] };

/** What of the setup is drawn here. */
type Drawn = Pick<SetupView, 'course' | 'groups' | 'everybody' | 'staff'>;

/** Students watched together across courses, and who answers for them. */
export function Groups({ view }: { readonly view: Drawn }) {
  const [edited, setEdited] = useState<GroupForm | null>(null);
  const staff = new Map(view.staff.map((s) => [s.id, s.name]));
  return (
    <Panel>
      {view.groups.length === 0 ? (
        <Nothing title="No group yet">
          A group holds students of any of your courses: an advising group, a scholarship, a boat crew.
        </Nothing>
      ) : (
        <Table
          head={[
            { label: 'Group' },
            { label: 'Students', right: true },
            { label: 'Who answers for them' },
            { label: '' },
          ]}
        >
          {view.groups.map((g) => (
            <tr key={g.id}>
              <Cell className="font-semibold">{g.name}</Cell>
              <Cell className="text-right">{g.memberIds.length}</Cell>
              <Cell>{g.staffIds.map((id) => staff.get(id) ?? 'somebody').join(', ')}</Cell>
              <Cell className="text-right">
                <Button small onClick={() => setEdited(g)} aria-label={`Change ${g.name}`}>
                  Change
                </Button>
              </Cell>
            </tr>
          ))}
        </Table>
      )}
      <div className="border-line border-t p-3">
        <Button onClick={() => setEdited(EMPTY)}>Add a group</Button>
      </div>
      {edited ? <GroupSheet view={view} group={edited} onClose={() => setEdited(null)} /> : null}
    </Panel>
  );
}

function GroupSheet({
  view,
  group,
  onClose,
}: {
  readonly view: Drawn;
  readonly group: GroupForm;
  readonly onClose: () => void;
}) {
  const { code } = view.course;
  const { control, sheet } = useEdited(loadGroupForm, group, {
    code,
    what: 'group',
    save: (edited, was) => saveGroupAction({ code, form: edited, was }),
    onClose,
  });
  const memberIds = useWatch({ control, name: 'memberIds' });
  const [find, setFind] = useState('');
  const text = find.trim().toLowerCase();
  return (
    <EditSheet
      title={group.id == null ? 'Add a group' : group.name}
      description="You answer for a group that you make; others may, too."
      {...sheet}
    >
      <TextField control={control} name="name" label="Name" />
      <input
        type="search"
        aria-label="Find students for the group"
        placeholder="Find by name or course"
        value={find}
        onChange={(e) => setFind(e.target.value)}
        className={inputClasses}
      />
      <TicksField
        control={control}
        name="memberIds"
        label={`Students, ${memberIds.length} selected`}
        options={view.everybody
          .filter((e) => memberIds.includes(e.id) || `${e.name} ${e.course}`.toLowerCase().includes(text))
          .map((e) => ({ value: e.id, label: `${e.name}, ${e.course}` }))}
      />
      <TicksField
        control={control}
        name="staffIds"
        label="Who answers for them"
        options={view.staff.map((s) => ({ value: s.id, label: s.name }))}
      />
    </EditSheet>
  );
}
