import type { Contact } from '@/core/acts/contact';
import { counted, dayAndTime, firstLine } from '@/core/format';
import { classes, finger } from '../parts/classes';

const DIRECTION = { out: 'to them', in: 'from them', both: 'with them' } as const;
/** Contacts that stand open; the others come with a press. */
const MOST = 6;

/** Everything that was said with a student, by whom and by which way; as files too. */
export function Contacts({
  code,
  zone,
  student,
  contacts,
}: {
  readonly code: string;
  readonly zone: string;
  readonly student: number;
  readonly contacts: readonly Contact[];
}) {
  return (
    <section aria-label="Contacts">
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="font-serif text-lg font-semibold">
          {contacts.length === 0 ? 'No contact yet' : counted(contacts.length, 'contact')}
        </h2>
        <ContactFiles code={code} student={student} />
      </div>
      <List zone={zone} contacts={contacts.slice(0, MOST)} />
      {contacts.length > MOST ? (
        <details>
          <summary className="text-teal py-1 text-[13px]">{contacts.length - MOST} before these</summary>
          <List zone={zone} contacts={contacts.slice(MOST)} />
        </details>
      ) : null}
    </section>
  );
}

function List({ zone, contacts }: { readonly zone: string; readonly contacts: readonly Contact[] }) {
  return (
    <ul className="divide-line divide-y text-[13px]">
      {contacts.map((c, i) => (
        <li key={`${c.at} ${i}`} className="grid grid-cols-[6.5rem_1fr] gap-x-3 py-1.5">
          <span className="text-muted">{dayAndTime(c.at, zone)}</span>
          <span className="min-w-0">
            <span className="text-muted">
              {c.way}, {DIRECTION[c.direction]}, {c.by}
              {c.state ? ` · ${c.state}` : ''}
            </span>
            <span className="block font-semibold">{c.about}</span>
            {c.text ? <span className="block break-words">{firstLine(c.text, 200)}</span> : null}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** The contacts of a student, or of a whole course, as a table and as a mailbox. */
export function ContactFiles({ code, student }: { readonly code: string; readonly student?: number }) {
  const look = classes('text-muted hover:text-ink px-1 underline-offset-2 hover:underline', finger);
  const href = (kind: string) =>
    `/api/courses/${code}/contacts/contacts.${kind}${student == null ? '' : `?student=${student}`}`;
  return (
    <span className="no-print whitespace-nowrap text-[13px]">
      <a href={href('csv')} download className={look}>
        Contacts as CSV
      </a>
      <a href={href('mbox')} download className={look}>
        Mailbox (.mbox)
      </a>
    </span>
  );
}
