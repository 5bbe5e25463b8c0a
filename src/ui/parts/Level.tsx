import { classes } from './classes';

export type LevelName = 'act' | 'watch' | 'steady' | 'too little data';

const colours: Record<LevelName, string> = {
  act: 'text-plum',
  watch: 'text-ochre',
  steady: 'text-teal',
  'too little data': 'text-muted',
};

/** The mark of a level: a pennant, filled for act, half for watch, open for steady, dashed for too little data. */
export function LevelMark({ level, className }: { readonly level: LevelName; readonly className?: string }) {
  const outline = 'M4 2.5h9l-2.6 3.5 2.6 3.5H4';
  return (
    <svg
      viewBox="0 0 16 16"
      role="img"
      aria-label={level}
      className={classes('inline-block size-4 shrink-0', colours[level], className)}
    >
      <path d="M3.5 1.5v13" stroke="currentColor" strokeWidth="1.6" strokeLinecap="round" />
      <path
        d={`${outline}z`}
        fill={level === 'act' ? 'currentColor' : 'none'}
        stroke="currentColor"
        strokeWidth="1.3"
        strokeLinejoin="round"
        strokeDasharray={level === 'too little data' ? '1.8 1.6' : undefined}
      />
      {level === 'watch' ? <path d="M4 6h6.4l2.6 3.5H4z" fill="currentColor" /> : null}
    </svg>
  );
}

export function LevelWord({ level }: { readonly level: LevelName }) {
  return <span className={classes('font-semibold', colours[level])}>{level}</span>;
}
