'use client';
import { useState } from 'react';
import { removeTemplateAction, saveTemplateAction } from '@/actions/messages';
import { ABOUTS, type About } from '@/core/acts/pick';
import type { TextForm } from '@/core/forms/message';
import { starterFor } from '@/core/messages/starters';
import type { SavedTemplate } from '@/core/views/compose';
import { Button } from '../parts/Button';
import { Choose } from '../parts/Choose';
import { inputClasses } from '../parts/Field';
import { say } from '../parts/say';
import { useAct } from '../parts/useAct';

interface Props {
  readonly code: string;
  readonly templates: readonly SavedTemplate[];
  readonly about: About;
  readonly text: TextForm;
  readonly onUse: (text: TextForm) => void;
}

/** Texts to begin with: one for each reason, one's own, and those of the course; and the way to keep this one. */
export function TemplateMenu({ code, templates, about, text, onUse }: Props) {
  const { busy, act } = useAct();
  const [used, setUsed] = useState('');
  const [naming, setNaming] = useState(false);
  const [name, setName] = useState('');
  const [shared, setShared] = useState(false);
  const mine = templates.find((t) => t.own && `saved ${t.id}` === used);
  const listed = (list: readonly SavedTemplate[]) =>
    list.map((t) => ({
      value: `saved ${t.id}`,
      label: `${t.name}${t.fault ? ' (cannot be used)' : t.about === 'other' ? '' : `, for ${t.about}`}`,
    }));
  const use = (value: string) => {
    const starter = ABOUTS.find((a) => value === `starter ${a}`);
    const saved = templates.find((t) => `saved ${t.id}` === value);
    if (saved?.fault) {
      say.error(`“${saved.name}” cannot be used: ${saved.fault}`);
      return;
    }
    setUsed(value);
    if (starter) onUse(starterFor(starter));
    else if (saved?.doc) onUse({ subject: saved.subject, doc: saved.doc });
  };
  const own = templates.filter((t) => t.own);
  const others = templates.filter((t) => !t.own);
  const save = (as: Pick<SavedTemplate, 'name' | 'about' | 'shared'>, id: number | null) => {
    const form = { id, name: as.name, shared: as.shared, about: as.about, ...text };
    const over = (was: object | null) => saveTemplateAction({ code, ...form, was });
    act(() => over(id == null ? null : as), {
      edit: { mine: form, over },
      done: `The template “${as.name.trim()}” is saved.`,
      then: (saved) => {
        setUsed(`saved ${saved}`);
        setNaming(false);
      },
    });
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Choose
        small
        className="w-56"
        label="Begin with"
        placeholder="Begin with another text"
        value={used}
        options={[
          { heading: 'By reason', options: ABOUTS.map((a) => ({ value: `starter ${a}`, label: a })) },
          ...(own.length > 0 ? [{ heading: 'Your templates', options: listed(own) }] : []),
          ...(others.length > 0 ? [{ heading: 'Templates of the course', options: listed(others) }] : []),
        ]}
        onChange={use}
      />
      {naming ? (
        <form
          className="flex flex-wrap items-center gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            save({ name, about, shared }, null);
          }}
        >
          <input
            autoFocus
            aria-label="Name of the template"
            placeholder="Name of the template"
            maxLength={80}
            value={name}
            onChange={(e) => setName(e.target.value)}
            className={`${inputClasses} max-w-48 py-0.5 text-[13px]`}
          />
          <label className="flex items-center gap-1 text-[13px]">
            <input
              type="checkbox"
              className="accent-teal size-4"
              checked={shared}
              onChange={(e) => setShared(e.target.checked)}
            />
            for all who teach this course
          </label>
          <Button small type="submit" disabled={busy || name.trim() === ''}>
            Save
          </Button>
        </form>
      ) : (
        <Button small look="quiet" onClick={() => setNaming(true)}>
          Save as a template
        </Button>
      )}
      {mine ? (
        <>
          <Button small look="quiet" disabled={busy} onClick={() => save(mine, mine.id)}>
            Save the change
          </Button>
          <Button
            small
            look="quiet"
            disabled={busy}
            onClick={() =>
              act(() => removeTemplateAction({ code, id: mine.id }), {
                done: `The template “${mine.name}” is removed.`,
                undo: () =>
                  act(
                    () =>
                      saveTemplateAction({
                        code,
                        id: null,
                        name: mine.name,
                        shared: mine.shared,
                        about: mine.about,
                        subject: mine.subject,
                        doc: mine.doc!,
                        was: null,
                      }),
                    { done: 'It is back.' },
                  ),
                then: () => setUsed(''),
              })
            }
          >
            Remove
          </Button>
        </>
      ) : null}
    </div>
  );
}
