'use client';
import { Fragment } from 'react';
import type { RuleStarter } from '@/core/unasked/starters';
import { classes } from '../parts/classes';
import { inputClasses } from '../parts/Field';

/** The sentence of a starter with its numbers to be changed where they stand. */
export function Sentence({
  starter,
  numbers,
  disabled,
  onChange,
}: {
  readonly starter: RuleStarter;
  readonly numbers: Readonly<Record<string, number | null>>;
  readonly disabled: boolean;
  readonly onChange: (numbers: Record<string, number | null>) => void;
}) {
  return (
    <p className="max-w-prose leading-8">
      {starter.sentence.split(/(\{\w+\})/).map((part, i) => {
        const found = starter.numbers.find((n) => part === `{${n.key}}`);
        if (!found) return <Fragment key={i}>{part}</Fragment>;
        const value = numbers[found.key];
        const wrong = value == null || value < found.least || value > found.most;
        return (
          <input
            key={i}
            type="number"
            aria-label={found.label}
            aria-invalid={wrong}
            min={found.least}
            max={found.most}
            disabled={disabled}
            value={value ?? ''}
            onChange={(e) =>
              onChange({
                ...numbers,
                [found.key]: e.target.value === '' ? null : e.target.valueAsNumber,
              })
            }
            className={classes(inputClasses, 'mx-0.5 inline-block max-w-17 px-1.5 py-0.5 max-sm:min-h-11')}
          />
        );
      })}
    </p>
  );
}
