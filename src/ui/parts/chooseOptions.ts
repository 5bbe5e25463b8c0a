import type { Ref } from 'react';

export interface ChooseOption<V extends string> {
  readonly value: V;
  readonly label: string;
}

/** Options under a heading of their own. */
export interface ChooseGroup<V extends string> {
  readonly heading: string;
  readonly options: readonly ChooseOption<V>[];
}

export interface ChooseProps<V extends string> {
  /** Its name, where no label stands beside it. */
  readonly label?: string;
  readonly id?: string;
  readonly ref?: Ref<HTMLButtonElement>;
  readonly 'aria-describedby'?: string;
  readonly 'aria-invalid'?: boolean;
  readonly value: V;
  readonly options: readonly (ChooseOption<V> | ChooseGroup<V>)[];
  readonly onChange: (value: V) => void;
  /** Gives the focus to something else once the list closes; it goes back to what it opened from if left out. */
  readonly onClose?: () => void;
  readonly disabled?: boolean;
  /** What stands there while none of the options is chosen. */
  readonly placeholder?: string;
  readonly small?: boolean;
  readonly className?: string;
}

export const isGroup = <V extends string>(o: ChooseOption<V> | ChooseGroup<V>): o is ChooseGroup<V> =>
  'options' in o;
