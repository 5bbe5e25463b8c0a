import type { MessageDoc } from '../messages/doc';
import type { MailState } from '../messages/mailState';
import type { Instant } from '../units';

export interface MessageRow {
  readonly id: number;
  readonly subject: string;
  readonly reason: string;
  readonly by: string;
  readonly at: Instant;
  readonly recipients: number;
  readonly read: number;
  readonly failed: number;
  readonly waiting: number;
  /** When it goes; null if it has gone. */
  readonly goesAt: Instant | null;
}

/** A page of the messages of a course, the newest first. */
export interface MessagePage {
  readonly rows: readonly MessageRow[];
  /** Of all messages of the course. */
  readonly all: { readonly messages: number; readonly failed: number; readonly unread: number };
  /** Answers that nobody has read. */
  readonly answers: number;
  /** Whether the page is not the first. */
  readonly isOlder: boolean;
  /** What the next page goes on from; null on the last. */
  readonly before: number | null;
}

export interface CopyView {
  readonly recipientId: number;
  readonly enrolmentId: number;
  readonly name: string;
  readonly email: string | null;
  readonly subject: string;
  readonly doc: MessageDoc;
  readonly state: MailState;
  readonly error: string | null;
  readonly attempts: number;
  readonly readAt: Instant | null;
  readonly hasPlan: boolean;
  /** The mail stand-in holds the e-mail as it was sent. */
  readonly kept: boolean;
}

export interface MessageView {
  readonly id: number;
  readonly subject: string;
  readonly reason: string;
  readonly by: string;
  readonly at: Instant;
  /** When it goes; null if it has gone. */
  readonly goesAt: Instant | null;
  /** Whether whoever asks wrote it. */
  readonly isOwn: boolean;
  readonly copies: readonly CopyView[];
}
