'use client';
import { Fragment, useRef } from 'react';
import { classes } from './classes';
import { inputClasses } from './Field';

/** A number that stands in a sentence. */
export interface SentenceNumber {
  readonly key: string;
  /** What it is, read out. */
  readonly label: string;
  readonly least: number;
  readonly most: number;
  readonly step?: number;
  /** How many times larger it is written than it is kept. */
  readonly times?: number;
}

/** Pixels that a number is dragged for one step. */
const PIXELS = 7;
/** A smaller movement is a press. */
const STILL = 3;

/** A value as it is written: without what the binary fraction adds at its end. */
const shown = (value: number, times: number): number => Number((value * times).toPrecision(12));

/** A sentence whose numbers are changed where they stand: typed, by the arrow keys, or dragged to the side. */
export function NumberSentence({
  sentence,
  numbers,
  values,
  disabled = false,
  onChange,
}: {
  /** Words, and numbers by their keys: `{percent}`. */
  readonly sentence: string;
  readonly numbers: readonly SentenceNumber[];
  readonly values: Readonly<Record<string, number | null>>;
  readonly disabled?: boolean;
  readonly onChange: (key: string, value: number | null) => void;
}) {
  return (
    <span className="leading-8">
      {sentence.split(/(\{[\w.]+\})/).map((part, i) => {
        const found = numbers.find((n) => part === `{${n.key}}`);
        return found ? (
          <Dragged
            key={i}
            number={found}
            value={values[found.key] ?? null}
            disabled={disabled}
            onChange={(value) => onChange(found.key, value)}
          />
        ) : (
          <Fragment key={i}>{part}</Fragment>
        );
      })}
    </span>
  );
}

function Dragged({
  number: { label, least, most, step = 1, times = 1 },
  value,
  disabled,
  onChange,
}: {
  readonly number: SentenceNumber;
  readonly value: number | null;
  readonly disabled: boolean;
  readonly onChange: (value: number | null) => void;
}) {
  const from = useRef<{ x: number; value: number; moved: boolean } | null>(null);
  const wrong = value == null || Number.isNaN(value) || value < least || value > most;
  const drop = () => (from.current = null);
  return (
    <input
      type="number"
      aria-label={label}
      aria-invalid={wrong}
      min={shown(least, times)}
      max={shown(most, times)}
      step={shown(step, times)}
      disabled={disabled}
      value={value == null || Number.isNaN(value) ? '' : shown(value, times)}
      onChange={(e) => onChange(e.target.value === '' ? null : shown(e.target.valueAsNumber, 1 / times))}
      onPointerDown={(e) => (from.current = { x: e.clientX, value: value ?? least, moved: false })}
      onPointerMove={(e) => {
        const began = from.current;
        if (!began || e.buttons === 0) return;
        const by = e.clientX - began.x;
        if (!began.moved && Math.abs(by) <= STILL) return;
        if (!began.moved) e.currentTarget.setPointerCapture(e.pointerId);
        began.moved = true;
        const next = began.value + Math.round(by / PIXELS) * step;
        onChange(shown(Math.min(most, Math.max(least, next)), 1));
      }}
      onPointerUp={drop}
      onPointerCancel={drop}
      className={classes(
        inputClasses,
        'mx-0.5 inline-block max-w-17 cursor-ew-resize touch-pan-y px-1.5 py-0.5 leading-5 select-none focus:cursor-text focus:select-auto max-sm:min-h-11',
      )}
    />
  );
}
