import { classes } from './classes';
import { Lantern } from './Lantern';

/** The sign and the name of the house. */
export function Wordmark({ large }: { readonly large?: boolean }) {
  return (
    <span className="flex items-center gap-1.5">
      <Lantern className={large ? 'size-7 shrink-0' : 'size-5 shrink-0'} />
      <span
        className={classes('font-serif font-semibold whitespace-nowrap', large ? 'text-xl' : 'text-base')}
      >
        Ready Lantern
      </span>
    </span>
  );
}
