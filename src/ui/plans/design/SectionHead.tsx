'use client';
import type { Section } from '@/core/plans/design';
import type { DesignView } from '@/core/views/design';
import { Button } from '../../parts/Button';
import { Choose } from '../../parts/Choose';
import { TextInput } from '../../parts/Field';

/** What a section is for: its outcome, a line for the student, and the items of the pre-check that ask for it. */
export function SectionHead({
  section,
  view,
  preCheckId,
  onChange,
  onRemove,
}: {
  readonly section: Section;
  readonly view: DesignView;
  readonly preCheckId: number | null;
  readonly onChange: (set: Partial<Section>) => void;
  readonly onRemove: () => void;
}) {
  const items = preCheckId == null ? [] : (view.items[preCheckId] ?? []);
  return (
    <div className="space-y-1.5">
      <div className="flex flex-wrap gap-2">
        <Choose
          small
          className="w-52"
          label="Outcome of the section"
          placeholder="Which outcome"
          value={section.outcomeId == null ? '' : String(section.outcomeId)}
          options={view.outcomes.map((o) => ({ value: String(o.id), label: o.title }))}
          onChange={(v) => onChange({ outcomeId: Number(v) })}
        />
        <TextInput
          aria-label="What the section is for"
          placeholder="What it is for, for the student to read"
          className="min-w-52 flex-1 py-0.5"
          maxLength={300}
          value={section.purpose}
          onChange={(e) => onChange({ purpose: e.target.value })}
        />
        <Button small look="quiet" onClick={onRemove}>
          Remove the section
        </Button>
      </div>
      {items.length > 0 ? (
        <fieldset className="flex flex-wrap items-center gap-x-3 text-[13px]">
          <legend className="float-left mr-3">Items of the pre-check that ask for it</legend>
          {items.map((item) => (
            <label key={item} className="inline-flex items-center gap-1 max-sm:min-h-11">
              <input
                type="checkbox"
                className="accent-teal size-3.5"
                checked={section.items.includes(item)}
                onChange={(e) =>
                  onChange({
                    items: e.target.checked
                      ? [...section.items, item]
                      : section.items.filter((i) => i !== item),
                  })
                }
              />
              {item}
            </label>
          ))}
          {section.items.length === 0 ? <span className="text-muted">none chosen: all of them</span> : null}
        </fieldset>
      ) : null}
    </div>
  );
}
