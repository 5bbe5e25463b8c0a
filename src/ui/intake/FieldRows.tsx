'use client';
import type { MappedColumn } from '@/core/formats/mapping/columns';
import { NAME_PARTS, type FieldSource, type Mapping } from '@/core/course/mapping';
import type { ForeignPreview } from '@/core/views/intake';
import { Choose } from '../parts/Choose';
import { Definition } from '../parts/Definition';
import { inputClasses } from '../parts/Field';

const SAME = '\u0000same';
const PART_WORDS = {
  all: 'all of it',
  given: 'the given name in it',
  family: 'the family name in it',
} as const;

interface Props {
  readonly columns: readonly MappedColumn[];
  readonly sources: ForeignPreview['columns'];
  readonly mapping: Mapping;
  readonly onChange: (next: Pick<Mapping, 'fields' | 'words'>) => void;
}

/** For each of our columns, where it comes from. */
export function FieldRows({ columns, sources, mapping, onChange }: Props) {
  const put = (name: string, source: FieldSource | null) => {
    const { [name]: _, ...others } = mapping.fields;
    onChange({ fields: source ? { ...others, [name]: source } : others, words: mapping.words });
  };
  const choose = (column: MappedColumn, value: string) => {
    if (value === '') return put(column.name, null);
    if (value === SAME) return put(column.name, { from: 'text', text: column.words[0] ?? '' });
    return put(column.name, { from: 'column', column: value, part: 'all' });
  };
  // What a source seldom has comes after what it must say or already says.
  const first = columns.filter((c) => c.required || mapping.fields[c.name]);
  const others = columns.filter((c) => !first.includes(c));
  const rows = (some: readonly MappedColumn[]) => (
    <table className="w-full text-[13px]">
      <thead>
        <tr className="text-muted text-left">
          <th className="pb-1 font-normal">Our column</th>
          <th className="pb-1 font-normal">comes from</th>
        </tr>
      </thead>
      <tbody>
        {some.map((column) => {
          const source = mapping.fields[column.name];
          const label = column.name.replaceAll('_', ' ');
          return (
            <tr key={column.name}>
              <th className="py-1.5 pr-3 text-left align-top font-semibold whitespace-nowrap">
                {label}
                <Definition of={label}>{column.means}</Definition>
                {column.required ? <span className="text-muted font-normal"> needed</span> : null}
              </th>
              <td className="space-y-1 py-0.5">
                <Choose
                  label={`${label} comes from`}
                  value={source ? (source.from === 'column' ? source.column : SAME) : ''}
                  options={[
                    { value: '', label: 'nothing here' },
                    ...sources.map((from) => ({ value: from.name, label: from.name })),
                    { value: SAME, label: 'the same for every row' },
                  ]}
                  onChange={(value) => choose(column, value)}
                />
                <Detail
                  column={column}
                  label={label}
                  source={source}
                  values={
                    sources.find((s) => source?.from === 'column' && s.name === source.column)?.values ?? null
                  }
                  words={mapping.words[column.name] ?? {}}
                  onSource={(next) => put(column.name, next)}
                  onWords={(words) =>
                    onChange({ fields: mapping.fields, words: { ...mapping.words, [column.name]: words } })
                  }
                />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
  return (
    <>
      {first.length > 0 ? rows(first) : null}
      {others.length > 0 ? (
        <details open={first.length === 0} className="text-[13px]">
          <summary>
            Columns that may stay empty: {others.map((c) => c.name.replaceAll('_', ' ')).join(', ')}
          </summary>
          {rows(others)}
        </details>
      ) : null}
    </>
  );
}

/** What else there is to say of a source: the text, the part of a name, the meaning of words. */
function Detail({
  column,
  label,
  source,
  values,
  words,
  onSource,
  onWords,
}: {
  readonly column: MappedColumn;
  readonly label: string;
  readonly source: FieldSource | undefined;
  readonly values: readonly string[] | null;
  readonly words: Readonly<Record<string, string>>;
  readonly onSource: (source: FieldSource) => void;
  readonly onWords: (words: Record<string, string>) => void;
}) {
  if (!source) return null;
  if (source.from === 'text') {
    return column.type === 'words' ? (
      <Choose
        label={`${label} of every row`}
        value={source.text}
        options={column.words.map((w) => ({ value: w, label: w }))}
        onChange={(text) => onSource({ from: 'text', text })}
      />
    ) : (
      <input
        aria-label={`${label} of every row`}
        className={inputClasses}
        value={source.text}
        onChange={(e) => onSource({ from: 'text', text: e.target.value })}
      />
    );
  }
  if (column.type === 'name') {
    return (
      <Choose
        label={`Part of ${source.column} that is the ${label}`}
        value={source.part}
        options={NAME_PARTS.map((p) => ({ value: p, label: PART_WORDS[p] }))}
        onChange={(part) => onSource({ ...source, part })}
      />
    );
  }
  if (column.type !== 'words') return null;
  if (!values)
    return <p className="text-muted">Its words are taken as they are: {column.words.join(', ')}.</p>;
  return (
    <ul className="space-y-1">
      {values.map((value) => (
        <li key={value} className="flex items-center gap-2">
          <span className="w-32 break-words">“{value}” means</span>
          <Choose
            label={`“${value}” means`}
            value={
              words[value.toLowerCase()] ??
              (column.words.includes(value.toLowerCase()) ? value.toLowerCase() : '')
            }
            options={[
              { value: '', label: 'not said yet' },
              ...column.words.map((w) => ({ value: w, label: w })),
            ]}
            onChange={(word) => onWords({ ...words, [value.toLowerCase()]: word })}
          />
        </li>
      ))}
    </ul>
  );
}
