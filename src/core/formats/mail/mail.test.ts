import { describe, expect, it } from 'vitest';
import { readDeliveryStatus } from './deliveryReport';
import { readIncoming } from './incoming';
import { ownWords } from './ownWords';

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
    expect(mail.deliveries).toEqual([
      {
        action: 'failed',
        status: '4.0.0',
        recipient: 'louisl@larry.slip.umd.edu',
        said: '426 connection timed out',
      },
    ]);
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
      deliveries: null,
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
