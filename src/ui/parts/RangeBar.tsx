import { SECURE_FROM, type MasteryLevel } from '@/core/outcomes/mastery';
import { classes } from './classes';

interface Estimate {
  readonly mean: number;
  readonly low: number;
  readonly high: number;
  readonly level: MasteryLevel;
}

/** An estimate in words: “40 to 71 %, estimate 56 %, developing”. */
const estimateWords = ({ low, high, mean, level }: Estimate): string =>
  `${Math.round(100 * low)} to ${Math.round(100 * high)} %, estimate ${Math.round(100 * mean)} %, ${level}`;

/** A mastery estimate as a range: the 80 % interval, a tick at the estimate, a mark where "secure" begins. */
export function RangeBar({
  outcome,
  className,
}: {
  readonly outcome: Estimate;
  readonly className?: string;
}) {
  const unknown = outcome.level === 'too little data';
  const at = (share: number) => `${100 * share}%`;
  return (
    <div
      role="img"
      aria-label={estimateWords(outcome)}
      className={classes('bg-line relative h-2 min-w-16 rounded-sm', className)}
    >
      <div
        className={
          unknown
            ? 'border-muted absolute h-2 rounded-sm border border-dashed'
            : 'bg-mid absolute h-2 rounded-sm'
        }
        style={{ left: at(outcome.low), width: at(outcome.high - outcome.low) }}
      />
      {unknown ? null : (
        <div className="bg-ink absolute -top-0.5 h-3 w-0.5" style={{ left: at(outcome.mean) }} />
      )}
      <div
        className="border-teal absolute -top-1 h-4 border-l border-dotted"
        style={{ left: at(SECURE_FROM) }}
      />
    </div>
  );
}
