import type { ComponentProps, ReactNode } from 'react';
import { classes } from './classes';

type Look = 'main' | 'plain' | 'quiet' | 'warm' | 'night';

const looks: Record<Look, string> = {
  main: 'bg-teal text-on-teal border-teal font-semibold hover:brightness-110',
  plain: 'bg-panel text-ink border-edge/60 hover:border-ink',
  quiet: 'border-transparent text-muted hover:text-ink hover:bg-amber-wash/60',
  warm: 'bg-amber text-[#1c2536] border-amber font-semibold hover:brightness-105',
  night: 'bg-transparent text-on-night border-on-night/60 hover:border-on-night',
};

/** Classes of a button, for a link that looks like one. */
export const buttonClasses = (look: Look = 'plain', className?: string, small = false): string =>
  classes(
    'inline-flex items-center justify-center rounded-md border leading-5 max-sm:min-h-11 whitespace-nowrap transition-colors',
    small ? 'min-h-6.5 gap-1.5 px-2 text-[13px]' : 'min-h-8 gap-2 px-3 py-1 text-sm',
    'disabled:cursor-not-allowed disabled:opacity-55',
    looks[look],
    className,
  );

interface Props extends ComponentProps<'button'> {
  readonly look?: Look;
  /** For a line of text or a table. */
  readonly small?: boolean;
  /** The key that does the same, shown on the button. */
  readonly hotkey?: string;
  readonly children?: ReactNode;
}

export function Button({
  look = 'plain',
  small,
  hotkey,
  className,
  children,
  type = 'button',
  ...rest
}: Props) {
  return (
    <button type={type} className={buttonClasses(look, className, small)} {...rest}>
      {children}
      {hotkey ? (
        // Nobody has the keys at hand on a phone.
        <span className="contents max-sm:hidden">
          <Key>{hotkey}</Key>
        </span>
      ) : null}
    </button>
  );
}

/** The cap of a key. Decoration: the key is also in the list that `?` opens. */
export function Key({ children }: { readonly children: ReactNode }) {
  return (
    <kbd
      aria-hidden
      className="inline-block min-w-5 rounded border border-current/40 px-1 text-center font-sans text-[11px] leading-4"
    >
      {children}
    </kbd>
  );
}
