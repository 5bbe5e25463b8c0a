import { describe, expect, it } from 'vitest';
import { readDeliveryStatus } from './deliveryReport';
import { readIncoming } from './incoming';
import { faultOfHead } from './head';
import { ownWords } from './ownWords';
import { isVouchedFor } from './vouched';
import { HOSTILE_MAIL } from '../../../../tests/support/hostileMail';

const raw = (text: string) => new TextEncoder().encode(text.replaceAll('\n', '\r\n'));

// RFC 3464, appendix E, "Simple DSN": the report of one recipient whose mailbox could not be reached.
const SIMPLE = `Date: Thu, 7 Jul 1994 17:16:05 -0400
From: Mail Delivery Subsystem <MAILER-DAEMON@CS.UTK.EDU>
Message-Id: <199407072116.RAA14128@CS.UTK.EDU>
Subject: Returned mail: Cannot send message for 5 days
To: <owner-info-mime@cs.utk.edu>
MIME-Version: 1.0
Content-Type: multipart/report; report-type=delivery-status;
      boundary="RAA14128.773615765/CS.UTK.EDU"

--RAA14128.773615765/CS.UTK.EDU

The original message was received at Sat, 2 Jul 1994 17:10:28 -0400
from root@localhost

   ----- The following addresses had delivery problems -----
<louisl@larry.slip.umd.edu>  (unrecoverable error)

--RAA14128.773615765/CS.UTK.EDU
content-type: message/delivery-status

Reporting-MTA: dns; cs.utk.edu

Original-Recipient: rfc822;louisl@larry.slip.umd.edu
Final-Recipient: rfc822;louisl@larry.slip.umd.edu
Action: failed
Status: 4.0.0
Diagnostic-Code: smtp; 426 connection timed out
Last-Attempt-Date: Thu, 7 Jul 1994 17:15:49 -0400

--RAA14128.773615765/CS.UTK.EDU
content-type: message/rfc822

[original message goes here]

--RAA14128.773615765/CS.UTK.EDU--
`;

// The same appendix, "Multi-Recipient DSN": its groups.
const MANY = `Reporting-MTA: dns; cs.utk.edu

Original-Recipient: rfc822;arathib@vnet.ibm.com
Final-Recipient: rfc822;arathib@vnet.ibm.com
Action: failed
Status: 5.0.0 (permanent failure)
Diagnostic-Code: smtp;  550 'arathib@vnet.IBM.COM' is not a
 registered gateway user
Remote-MTA: dns; vnet.ibm.com

Original-Recipient: rfc822;johnh@hpnjld.njd.hp.com
Final-Recipient: rfc822;johnh@hpnjld.njd.hp.com
Action: delayed
Status: 4.0.0 (hpnjld.njd.jp.com: host name lookup failure)

Original-Recipient: rfc822;wsnell@sdcc13.ucsd.edu
Final-Recipient: rfc822;wsnell@sdcc13.ucsd.edu
Action: failed
Status: 5.0.0
Diagnostic-Code: smtp; 550 user unknown
Remote-MTA: dns; sdcc13.ucsd.edu
`;

describe('a delivery report (RFC 3464)', () => {
  it('says what became of the one it is about', async () => {
    const mail = await readIncoming(raw(SIMPLE));
    expect(mail.report?.deliveries).toEqual([
      {
        action: 'failed',
        status: '4.0.0',
        recipient: 'louisl@larry.slip.umd.edu',
        said: '426 connection timed out',
      },
    ]);
    // Its original stands there as a remark without a head.
    expect(mail.report?.of).toBeNull();
  });
  it('says it of each of many, folded lines and comments read', () => {
    expect(readDeliveryStatus(MANY)).toEqual([
      {
        action: 'failed',
        status: '5.0.0',
        recipient: 'arathib@vnet.ibm.com',
        said: "550 'arathib@vnet.IBM.COM' is not a registered gateway user",
      },
      { action: 'delayed', status: '4.0.0', recipient: 'johnh@hpnjld.njd.hp.com', said: null },
      { action: 'failed', status: '5.0.0', recipient: 'wsnell@sdcc13.ucsd.edu', said: '550 user unknown' },
    ]);
  });
  it('passes over groups that lack what the standard asks for', () => {
    expect(
      readDeliveryStatus('Action: failed\n\nStatus: 5.1.1\nFinal-Recipient: rfc822; a@b\n\nnonsense'),
    ).toEqual([]);
  });
});

describe('an answer by e-mail', () => {
  const mail = (head: string, body: string) =>
    readIncoming(
      raw(`From: Bo Li <Bo@students.example>\nMessage-ID: <1@x>\nSubject: Re: A word\n${head}\n${body}`),
    );
  it('is its writer’s words, from their address', async () => {
    const read = await mail(
      'Content-Type: text/plain; charset=utf-8\n',
      'Yes, Friday.\n\nOn Wed, 25 Nov 2026 at 10:00, Ines Calloway wrote:\n> Shall we talk?\n',
    );
    expect(read).toMatchObject({
      id: '<1@x>',
      from: 'bo@students.example',
      words: 'Yes, Friday.',
      automatic: false,
      report: null,
    });
  });
  it('of HTML alone is read as words, and nothing of it is kept as HTML', async () => {
    const read = await mail(
      'Content-Type: text/html\n',
      '<style>p{}</style><p>Yes &lt;b&gt; &amp; more</p><script>alert(1)</script><blockquote>Shall we?</blockquote>',
    );
    expect(read.words).toBe('Yes <b> & more');
  });
  // RFC 3834, section 5, and the fields of older programs.
  it.each([
    'Auto-Submitted: auto-replied',
    'Auto-Submitted: auto-generated; x=y',
    'Precedence: bulk',
    'X-Auto-Response-Suppress: All',
  ])('with “%s” was sent by a machine', async (field) => {
    expect((await mail(`${field}\n`, 'I am away.')).automatic).toBe(true);
  });
  it('with “Auto-Submitted: no” was not', async () => {
    expect((await mail('Auto-Submitted: no\n', 'Here I am.')).automatic).toBe(false);
  });
});

describe('own words', () => {
  it.each([
    ['Thank you.\n-- \nBo Li\nRoom 4', 'Thank you.'],
    ['> Shall we talk?\nYes.\n> On Friday?\nBetter on Monday.', 'Yes.\nBetter on Monday.'],
    ['Yes.\n\n-----Original Message-----\nFrom: Ines', 'Yes.'],
    ['Gern.\n\nAm 25.11.2026 um 10:00 schrieb Ines Calloway <i@x.example>:\n> Hello', 'Gern.'],
    // Where nothing would be left, all of it.
    ['> only what was quoted', '> only what was quoted'],
    ['On Friday I wrote: nothing yet.\nSorry.', 'On Friday I wrote: nothing yet.\nSorry.'],
  ])('of %j', (text, own) => expect(ownWords(text)).toBe(own));
});

describe('hostile mail', () => {
  // A mail of 300 KB that took over a second, or of 3 KB that took minutes, would fail by the time limit of the tests.
  it.each(HOSTILE_MAIL.map((m) => [m.kind, m] as const))(
    '%s is read, or refused as unreadable',
    async (_, m) => {
      const read = await readIncoming(m.of(300_000)).catch((error: unknown) => error);
      if (!(read instanceof Error))
        expect((read as { words: string }).words.length).toBeLessThanOrEqual(20_000);
      else expect(read.message).toMatch(/Max|exceeded/i);
    },
  );
  it('of NUL bytes and half characters leaves only what a text column takes', async () => {
    const read = await readIncoming(raw('From: a@x.example\n\nYes\0, Friday.\n'));
    expect(read.words).toBe('Yes, Friday.');
  });
  it('with a Message-ID of 8 KB has none', async () => {
    const read = await readIncoming(raw(`From: a@x.example\nMessage-ID: <${'x'.repeat(8000)}@x>\n\nYes.\n`));
    expect(read).toMatchObject({ id: null, words: 'Yes.' });
  });
});

describe('the head of a mail', () => {
  it.each([
    ['From: Bo Li <bo@x.example>\nSubject: x', null],
    ['Subject: x', null],
    ['From: "Li, Bo" <bo@x.example>', null],
    ['From: Bo (one, two) <bo@x.example>', null],
    ['From: bo@x.example,\n ida@x.example', /more than one address/],
    ['From: a@x.example\nFrom: b@x.example', /more than one From/],
    ['from : a@x.example\nFROM: b@x.example', /more than one From/],
  ])('%j', (head, fault) => {
    const found = faultOfHead(head, true);
    if (fault == null) expect(found).toBeNull();
    else expect(found).toMatch(fault);
  });
  it('with a From field of 4 KB is refused', () =>
    expect(faultOfHead(`From: ${'a:'.repeat(2000)}`, true)).toMatch(/too long/));
  it('without an end within 64 KB is refused', () => expect(faultOfHead('x', false)).toMatch(/64 KB/));
});

describe('Authentication-Results (RFC 8601)', () => {
  const vouched = (line: string, from = 'someone@example.net', by = ['example.com']) =>
    isVouchedFor(from, [`Authentication-Results: ${line}`], by);
  it.each([
    // RFC 8601, appendix B.2: nothing was checked.
    ['example.org 1; none', 'someone@example.net', false],
    // Appendix B.3: SPF alone is about the envelope, not about From.
    ['example.com;\r\n          spf=pass smtp.mailfrom=example.net', 'someone@example.net', false],
    // Appendix B.5: a signature of the sender's domain, with a comment and the check of the sending host beside it.
    [
      'example.com;\r\n          sender-id=fail header.from=example.com;\r\n          dkim=pass (good signature) header.d=example.com',
      'sender@example.com',
      true,
    ],
    ['example.com; dkim=pass header.d=other.example', 'someone@example.net', false],
    ['example.com; dmarc=pass header.from=example.net', 'someone@mail.example.net', true],
    ['example.com; dmarc=fail header.from=example.net', 'someone@example.net', false],
    // A name that only begins like ours.
    ['example.com.evil.example; dmarc=pass header.from=example.net', 'someone@example.net', false],
    ['(example.com;) evil.example; dmarc=pass', 'someone@example.net', false],
  ])('%j for %s', (line, from, expected) => expect(vouched(line, from)).toBe(expected));
  it('counts of configured servers only', () =>
    expect(vouched('example.com; dmarc=pass header.from=example.net', undefined, [])).toBe(false));
});
