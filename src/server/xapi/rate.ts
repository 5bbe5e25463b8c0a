import { SECOND_MS } from '@/core/units';

/** Requests of one key: so many at once, and so many a second after that. */
export const RATE = { burst: 200, perSecond: 50 } as const;
/** Wrong secrets for one key: so many at once, then one every twelve seconds. */
const WRONG = { burst: 10, perSecond: 1 / 12 } as const;
/** Wrong secrets from one address, for whatever keys. */
const WRONG_OF_PEER = { burst: 60, perSecond: 1 } as const;
/** Buckets kept at a time; the oldest go. */
const MOST = 10_000;

const holder = globalThis as typeof globalThis & {
  lanternBuckets?: Map<string, { left: number; at: number }>;
};

/** Takes one from the bucket of a name; false if it is empty. Monotonic time: a clock set back lends nothing. */
function take(name: string, { burst, perSecond }: { burst: number; perSecond: number }): boolean {
  holder.lanternBuckets ??= new Map();
  const buckets = holder.lanternBuckets;
  const now = performance.now();
  const known = buckets.get(name) ?? { left: burst, at: now };
  const left = Math.min(burst, known.left + ((now - known.at) / SECOND_MS) * perSecond);
  buckets.delete(name);
  buckets.set(name, { left: left >= 1 ? left - 1 : left, at: now });
  if (buckets.size > MOST) buckets.delete(buckets.keys().next().value!);
  return left >= 1;
}

export const mayCall = (key: string): boolean => take(`call ${key}`, RATE);
/** Counts a wrong secret against the key and against who sent it, whatever key they try next. */
export function mayFail(key: string, peer: string): boolean {
  const ofPeer = take(`peer ${peer}`, WRONG_OF_PEER);
  return take(`fail ${key}`, WRONG) && ofPeer;
}
