'use client';
import { Slider } from 'radix-ui';
import { bandOf } from '@/core/plans/bands';
import { oneDigit } from '@/core/format';
import type { Percent } from '@/core/units';
import type { BandStudent } from '@/core/views/design';

/** Students whose dots would lie on each other stand side by side, so many at most. */
const BESIDE = 7;

/** The scale of scores with a mark where a band ends and the next begins, and a dot for each student. */
export function Ruler({
  marks,
  points,
  students,
  onChange,
}: {
  readonly marks: readonly Percent[];
  /** The maximum of the quiz, to say marks in points. */
  readonly points: number | null;
  readonly students: readonly BandStudent[];
  readonly onChange: (marks: readonly Percent[]) => void;
}) {
  const near = new Map<number, number>();
  const dots = students.map((s) => {
    const row = Math.round(Math.min(100, s.percent) / 2);
    const beside = near.get(row) ?? 0;
    near.set(row, beside + 1);
    return { ...s, beside: Math.min(beside, BESIDE) };
  });
  return (
    <div className="relative mx-auto h-[420px] w-28 max-sm:hidden">
      <span className="text-muted absolute -top-2 left-0 text-[13px]">100 %</span>
      <span className="text-muted absolute -bottom-2 left-0 text-[13px]">0 %</span>
      <Slider.Root
        orientation="vertical"
        min={1}
        max={100}
        step={1}
        minStepsBetweenThumbs={1}
        value={[...marks]}
        onValueChange={onChange}
        className="absolute inset-y-0 left-14 flex w-4 touch-none flex-col items-center"
      >
        <Slider.Track className="bg-line relative w-1 grow rounded">
          <Slider.Range className="bg-line absolute w-full" />
        </Slider.Track>
        {marks.map((mark, i) => (
          <Slider.Thumb
            key={i}
            aria-label={`Mark between bands ${i + 1} and ${i + 2}`}
            aria-valuetext={`${oneDigit(mark)} %${points ? `, ${oneDigit((mark * points) / 100)} points` : ''}`}
            className="border-ink bg-amber relative block size-4 cursor-grab rounded-full border"
          >
            <span
              aria-hidden
              className="absolute top-1/2 right-5 -translate-y-1/2 text-[13px] font-semibold whitespace-nowrap"
            >
              {oneDigit(mark)} %
            </span>
          </Slider.Thumb>
        ))}
      </Slider.Root>
      <div aria-hidden>
        {dots.map((s) => (
          <span
            key={s.id}
            title={`${s.name}: ${oneDigit(s.percent)} %, band ${bandOf(s.percent, marks) + 1}`}
            className="bg-high/70 absolute size-1.5 rounded-full"
            style={{ bottom: `calc(${Math.min(100, s.percent)}% - 3px)`, left: `${78 + s.beside * 5}px` }}
          />
        ))}
      </div>
    </div>
  );
}
