'use client';
import { EditorContent, useEditor, useEditorState } from '@tiptap/react';
import { NodeSelection } from '@tiptap/pm/state';
import { Bold, Link2, List, ListOrdered, Undo2 } from 'lucide-react';
import { useEffect, useState, type ReactNode } from 'react';
import { isLink } from '@/core/messages/docSchema';
import { MERGE_FIELDS, type MergeField } from '@/core/messages/fields';
import { selectionSentence } from '@/core/people/selectionWords';
import type { Selection } from '@/core/rules/selection';
import { ConditionGroup } from '../../condition/ConditionGroup';
import { Button } from '../../parts/Button';
import { Choose } from '../../parts/Choose';
import { classes } from '../../parts/classes';
import { inputClasses } from '../../parts/Field';
import { Sheet } from '../../parts/Sheet';
import { DocAsItWillLook } from './DocAsItWillLook';
import type { EditorProps } from './editorProps';
import { extensionsFor } from './schema';
import { tidyDoc } from './tidyDoc';

/** What a paragraph most often depends on. */
const MISSING: Selection = { all: [{ measure: 'missing', is: '>', value: 0 }] };

const tool =
  'grid size-7 place-items-center rounded text-muted hover:text-ink aria-pressed:bg-amber-wash aria-pressed:text-ink disabled:opacity-40 max-sm:size-11';

/** The editor of `MessageEditor`. */
export default function Editor({ label, doc, course, plain = false, onChange, describedBy }: EditorProps) {
  const [linking, setLinking] = useState<string | null>(null);
  const [asking, setAsking] = useState<Selection | null>(null);
  const [extensions] = useState(() => extensionsFor(course, plain));
  const [placed, setPlaced] = useState(false);
  useEffect(() => {
    const frame = requestAnimationFrame(() => requestAnimationFrame(() => setPlaced(true)));
    return () => cancelAnimationFrame(frame);
  }, []);
  const editor = useEditor({
    extensions,
    content: doc as unknown as Record<string, unknown>,
    // Only ever drawn in the browser.
    immediatelyRender: true,
    editorProps: {
      attributes: {
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-label': label,
        ...(describedBy ? { 'aria-describedby': describedBy } : {}),
        class: 'message-text min-h-56 px-3 py-2 outline-none',
      },
    },
    onUpdate: ({ editor: e }) => onChange(tidyDoc(e.getJSON())),
  });
  const now = useEditorState({
    editor,
    selector: ({ editor: e }) => {
      const { selection } = e.state;
      const node =
        selection instanceof NodeSelection && selection.node.type.name === 'field' ? selection.node : null;
      return {
        bold: e.isActive('bold'),
        bullets: e.isActive('bulletList'),
        numbers: e.isActive('orderedList'),
        link: (e.getAttributes('link').href as string | undefined) ?? null,
        canUndo: e.can().undo(),
        field: node
          ? {
              at: selection.from,
              name: node.attrs.name as string,
              fallback: node.attrs.fallback as string | null,
            }
          : null,
        shownIf: plain
          ? null
          : ((e.getAttributes('paragraph').shownIf as Selection | null | undefined) ?? null),
      };
    },
  });
  const press = (name: string, icon: ReactNode, on: boolean, run: () => void, disabled = false) => (
    <button
      type="button"
      aria-label={name}
      aria-pressed={on}
      disabled={disabled}
      // The text keeps the focus, and with it what is selected.
      onMouseDown={(e) => e.preventDefault()}
      onClick={run}
      className={tool}
    >
      {icon}
    </button>
  );
  const insert = (name: MergeField) =>
    editor
      .chain()
      .insertContent({ type: 'field', attrs: { name, fallback: null } })
      .run();
  const shown = (shownIf: Selection | null) =>
    editor.chain().focus().updateAttributes('paragraph', { shownIf }).run();
  return (
    <div className="border-edge/70 bg-panel focus-within:border-ink rounded-md border">
      <div
        role="toolbar"
        aria-label="Format"
        className="border-line flex flex-wrap items-center gap-0.5 border-b px-1 py-0.5"
      >
        {press('Bold', <Bold className="size-4" />, now.bold, () =>
          editor.chain().focus().toggleBold().run(),
        )}
        {press('Bullet list', <List className="size-4" />, now.bullets, () =>
          editor.chain().focus().toggleBulletList().run(),
        )}
        {press('Numbered list', <ListOrdered className="size-4" />, now.numbers, () =>
          editor.chain().focus().toggleOrderedList().run(),
        )}
        {press('Link', <Link2 className="size-4" />, now.link != null, () =>
          setLinking(linking == null ? (now.link ?? 'https://') : null),
        )}
        {press(
          'Undo',
          <Undo2 className="size-4" />,
          false,
          () => editor.chain().focus().undo().run(),
          !now.canUndo,
        )}
        {plain ? null : (
          <>
            <Choose
              small
              className="ml-1 w-36"
              label="Insert a field"
              placeholder="Insert a field"
              value=""
              options={MERGE_FIELDS.map((name) => ({ value: name as string, label: name }))}
              onChange={(name) => insert(MERGE_FIELDS.find((f) => f === name)!)}
              onClose={() => editor.commands.focus()}
            />
            <Button small look="quiet" onClick={() => setAsking(now.shownIf ?? MISSING)}>
              {now.shownIf ? 'Shown only where …' : 'Show only where …'}
            </Button>
          </>
        )}
      </div>
      {linking == null ? null : (
        <form
          className="border-line flex items-center gap-2 border-b px-2 py-1"
          onSubmit={(e) => {
            e.preventDefault();
            if (!isLink(linking)) return;
            editor.chain().focus().extendMarkRange('link').setLink({ href: linking }).run();
            setLinking(null);
          }}
        >
          <input
            autoFocus
            aria-label="Address of the link"
            aria-invalid={!isLink(linking)}
            value={linking}
            onChange={(e) => setLinking(e.target.value)}
            className={classes(inputClasses, 'py-0.5')}
          />
          <Button small type="submit" disabled={!isLink(linking)}>
            Link
          </Button>
          {now.link == null ? null : (
            <Button
              small
              look="quiet"
              onClick={() => {
                editor.chain().focus().extendMarkRange('link').unsetLink().run();
                setLinking(null);
              }}
            >
              Remove
            </Button>
          )}
        </form>
      )}
      {now.field ? (
        <Fallback
          key={now.field.at}
          name={now.field.name}
          fallback={now.field.fallback}
          onChange={(fallback) =>
            editor.commands.command(({ tr }) => {
              tr.setNodeMarkup(now.field!.at, undefined, { name: now.field!.name, fallback });
              tr.setSelection(NodeSelection.create(tr.doc, now.field!.at));
              return true;
            })
          }
        />
      ) : null}
      {/* The text takes its place a moment after the frame: until then it stands there as it will look. */}
      <div className="grid *:[grid-area:1/1]">
        <EditorContent editor={editor} />
        {placed ? null : <DocAsItWillLook doc={doc} />}
      </div>
      {asking ? (
        <Sheet
          open
          onOpenChange={() => setAsking(null)}
          title="Who reads this paragraph"
          description="Others get the message without it. Of whom it is not known, it is left out."
        >
          <div className="space-y-3">
            <p className="text-muted">{selectionSentence(asking, course)}</p>
            <ConditionGroup where={asking} course={course} place="" onChange={setAsking} />
            <div className="flex gap-2">
              <Button
                look="main"
                onClick={() => {
                  shown(asking);
                  setAsking(null);
                }}
              >
                Show only there
              </Button>
              {now.shownIf ? (
                <Button
                  onClick={() => {
                    shown(null);
                    setAsking(null);
                  }}
                >
                  Show to everybody
                </Button>
              ) : null}
            </div>
          </div>
        </Sheet>
      ) : null}
    </div>
  );
}

/** What stands in place of the field that is selected, where it is empty. */
function Fallback({
  name,
  fallback,
  onChange,
}: {
  readonly name: string;
  readonly fallback: string | null;
  readonly onChange: (fallback: string | null) => void;
}) {
  const [text, setText] = useState(fallback ?? '');
  const [leaves, setLeaves] = useState(fallback === '');
  useEffect(() => {
    const next = leaves ? '' : text === '' ? null : text;
    if (next !== fallback) onChange(next);
    // It follows what is typed, not what it was called with.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [text, leaves]);
  return (
    <div className="border-line bg-amber-wash/40 flex flex-wrap items-center gap-2 border-b px-2 py-1 text-[13px]">
      <label className="flex flex-1 items-center gap-2 whitespace-nowrap">
        Where “{name}” is empty:
        <input
          value={text}
          maxLength={300}
          disabled={leaves}
          placeholder="write what stands there instead"
          onChange={(e) => setText(e.target.value)}
          className={classes(inputClasses, 'py-0.5')}
        />
      </label>
      <label className="flex items-center gap-1">
        <input
          type="checkbox"
          className="accent-teal size-4"
          checked={leaves}
          onChange={(e) => setLeaves(e.target.checked)}
        />
        nothing
      </label>
    </div>
  );
}
