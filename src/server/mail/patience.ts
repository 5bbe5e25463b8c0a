import type { Socket } from 'node:net';
import { peerName } from '../base/peer';

/** How long, and how often at once, somebody may talk to the mail door. */
export interface DoorLimits {
  /** Connections of one address (of one network in IPv6). */
  readonly anAddress: number;
  /** Milliseconds for everything that is said in one connection. */
  readonly conversationMs: number;
  /** Milliseconds from one step of it to the next: greeting, sender, recipient, and the beginning of the message. */
  readonly commandMs: number;
}

export const DOOR_LIMITS: DoorLimits = { anAddress: 4, conversationMs: 5 * 60_000, commandMs: 30_000 };

const keyOf = (address: string | undefined, port: number | undefined) => `${address} ${port}`;

/** Keeps the mail door open for others: whoever is slow, or comes too often at once, is sent away with 421 (RFC 5321, 3.8). */
export class Patience {
  private readonly open = new Map<string, { readonly socket: Socket; step?: NodeJS.Timeout }>();
  private readonly talking = new Map<string, number>();

  constructor(private readonly limits: DoorLimits) {}

  /** Begins with a connection. */
  begin(socket: Socket): void {
    const { remoteAddress, remotePort } = socket;
    const key = keyOf(remoteAddress, remotePort);
    const peer = peerName(remoteAddress ?? '');
    const talking = this.talking.get(peer) ?? 0;
    // Who is sent away does not count.
    if (talking >= this.limits.anAddress) return;
    this.open.set(key, { socket });
    this.talking.set(peer, talking + 1);
    const end = setTimeout(() => this.dismiss(socket), this.limits.conversationMs);
    this.step(remoteAddress, remotePort);
    socket.once('close', () => {
      clearTimeout(end);
      clearTimeout(this.open.get(key)?.step);
      this.open.delete(key);
      const left = (this.talking.get(peer) ?? 1) - 1;
      if (left > 0) this.talking.set(peer, left);
      else this.talking.delete(peer);
    });
  }

  /** Whether a connection may go on: its address had no more than it may have when it came. */
  admits(address: string, port: number): boolean {
    return this.open.has(keyOf(address, port));
  }

  /** A step of a conversation is done: the time for the next begins. `isLast` while the message itself comes. */
  step(address: string | undefined, port: number | undefined, isLast = false): void {
    const entry = this.open.get(keyOf(address, port));
    if (!entry) return;
    clearTimeout(entry.step);
    if (!isLast) entry.step = setTimeout(() => this.dismiss(entry.socket), this.limits.commandMs);
  }

  private dismiss(socket: Socket): void {
    socket.end('421 4.4.2 That took too long; try again later\r\n');
    // One that does not close its side is not waited for.
    setTimeout(() => socket.destroy(), 1000).unref();
  }
}
