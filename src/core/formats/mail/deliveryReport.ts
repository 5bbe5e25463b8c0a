/** What a delivery report says of one recipient (RFC 3464, section 2.3). */
export interface Delivery {
  readonly action: 'failed' | 'delayed' | 'delivered' | 'relayed' | 'expanded';
  /** An enhanced status code (RFC 3463), like 5.1.1. */
  readonly status: string;
  readonly recipient: string;
  /** What the other server said, if it did. */
  readonly said: string | null;
}

const ACTIONS = ['failed', 'delayed', 'delivered', 'relayed', 'expanded'] as const;

/** Fields of a group, unfolded (RFC 5322, section 2.2.3), by name in lower case. */
function fieldsOf(group: string): Map<string, string> {
  const fields = new Map<string, string>();
  for (const line of group.replace(/\n[ \t]+/g, ' ').split('\n')) {
    const colon = line.indexOf(':');
    if (colon > 0) fields.set(line.slice(0, colon).trim().toLowerCase(), line.slice(colon + 1).trim());
  }
  return fields;
}

/** A field with its type before a semicolon: "rfc822; someone@x.example". Comments in brackets are left out. */
const typed = (value: string | undefined): string | null =>
  value == null ? null : value.replace(/^[^;]*;\s*/, '').trim();

/**
 * Reads the part message/delivery-status of a report: a group about the message, and one a recipient, between empty
 * lines. Groups that lack what the standard asks for are passed over.
 */
export function readDeliveryStatus(text: string): Delivery[] {
  return text
    .replaceAll('\r\n', '\n')
    .split(/\n\s*\n/)
    .flatMap((group) => {
      const fields = fieldsOf(group);
      const word = fields
        .get('action')
        ?.toLowerCase()
        .replace(/\s*\(.*$/, '');
      const action = ACTIONS.find((a) => a === word);
      const status = /^\d\.\d{1,3}\.\d{1,3}/.exec(fields.get('status') ?? '')?.[0];
      const recipient = typed(fields.get('final-recipient'));
      return action && status && recipient
        ? [{ action, status, recipient, said: typed(fields.get('diagnostic-code')) }]
        : [];
    });
}
