'use client';
import { saveFeedAction } from '@/actions/feeds';
import { daysText, FEED_DAYS, type FeedDays } from '@/core/feeds/schedule';
import { FEED_KINDS, type FeedKind } from '@/core/feeds/feed';
import type { FeedForm } from '@/core/forms/feed';
import { Button } from '../parts/Button';
import { ClockField, SelectField, TextField } from '../parts/fields';
import { Sheet } from '../parts/Sheet';
import { useAct } from '../parts/useAct';
import { useYupForm } from '../parts/useYupForm';

const loadForm = () => import('@/core/forms/feed').then((m) => m.feedForm);

const NEW: FeedForm = { id: null, name: '', kind: 'folder', link: '', days: 'weekdays', minute: 6 * 60 };

const KIND_WORDS: Readonly<Record<FeedKind, { readonly label: string; readonly hint: string }>> = {
  folder: {
    label: 'A folder',
    hint: 'A system puts the file into a folder on the server. You see which once this is saved.',
  },
  mail: {
    label: 'An e-mail',
    hint: 'A system mails the file to an address of this course. You see it once this is saved; whoever knows it can send files.',
  },
  link: {
    label: 'A link',
    hint: 'The file is fetched from a web address that answers with the file itself.',
  },
};

const DAYS = FEED_DAYS.map((value: FeedDays) => {
  const text = daysText(value);
  return { value, label: text[0]!.toUpperCase() + text.slice(1) };
});

/** Where it is said how files come by themselves. */
export function FeedSheet({
  code,
  form,
  takesMail,
  onClose,
}: {
  readonly code: string;
  /** What is changed; null for a new one. */
  readonly form: FeedForm | null;
  readonly takesMail: boolean;
  readonly onClose: () => void;
}) {
  const { busy, act } = useAct();
  const { control, handleSubmit, watch } = useYupForm<FeedForm>(loadForm, form ?? NEW);
  const kind = watch('kind');
  const kinds = FEED_KINDS.filter((k) => takesMail || k !== 'mail');
  return (
    <Sheet
      open
      onOpenChange={(o) => !o && onClose()}
      title={form ? `Change ${form.name}` : 'Files that come by themselves'}
      description="The first file waits for your look. Those like it go in by themselves; one that is unlike it waits again."
    >
      <form
        method="post"
        noValidate
        className="space-y-3"
        onSubmit={handleSubmit((next) =>
          act(() => saveFeedAction({ code, form: next, was: form }), {
            done: 'Saved.',
            then: onClose,
            edit: { mine: next, over: (was) => saveFeedAction({ code, form: next, was }) },
          }),
        )}
      >
        <TextField
          control={control}
          name="name"
          label="Name"
          placeholder="Gradebook export"
          most={80}
          autoFocus
        />
        {form ? null : (
          <SelectField
            control={control}
            name="kind"
            label="Comes as"
            hint={KIND_WORDS[kind].hint}
            options={kinds.map((value) => ({ value, label: KIND_WORDS[value].label }))}
          />
        )}
        {kind === 'link' ? (
          <TextField control={control} name="link" label="Link" placeholder="https://" most={2000} />
        ) : null}
        <div className="flex flex-wrap gap-3">
          <SelectField
            control={control}
            name="days"
            label={kind === 'mail' ? 'Comes' : 'Looked for'}
            className="w-48"
            options={DAYS}
          />
          <ClockField
            control={control}
            name="minute"
            label={kind === 'mail' ? 'By' : 'At'}
            className="w-24"
          />
        </div>
        <Button type="submit" look="main" disabled={busy}>
          Save
        </Button>
      </form>
    </Sheet>
  );
}
