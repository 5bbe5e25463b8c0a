import { isMergeField, MERGE_FIELDS, type MergeField, type MergeValues } from './fields';

export type TemplatePart =
  { readonly text: string } | { readonly field: MergeField; readonly fallback: string | null };

export interface TemplateError {
  /** 1-based line of the opening brace. */
  readonly line: number;
  readonly reason: string;
}

/**
 * Reads a template: `{first name}` is a merge field, `{standing | not graded yet}` one with a text to use where it is
 * empty, `{{` a literal brace. Every error is reported with its line.
 */
export function parseTemplate(source: string): { parts: TemplatePart[]; errors: TemplateError[] } {
  const parts: TemplatePart[] = [];
  const errors: TemplateError[] = [];
  let text = '';
  let line = 1;
  let i = 0;
  while (i < source.length) {
    const char = source[i]!;
    if (char === '\n') line++;
    if (char !== '{') {
      text += char;
      i++;
      continue;
    }
    if (source[i + 1] === '{') {
      text += '{';
      i += 2;
      continue;
    }
    const close = source.slice(i + 1).search(/[}\n{]/);
    if (close < 0 || source[i + 1 + close] !== '}') {
      errors.push({
        line,
        reason: 'A brace { is opened and not closed on the same line. Write {{ for a brace itself.',
      });
      text += char;
      i++;
      continue;
    }
    const inner = source.slice(i + 1, i + 1 + close);
    const bar = inner.indexOf('|');
    const name = (bar < 0 ? inner : inner.slice(0, bar)).trim().replace(/\s+/g, ' ').toLowerCase();
    if (isMergeField(name)) {
      if (text) parts.push({ text });
      text = '';
      parts.push({ field: name, fallback: bar < 0 ? null : inner.slice(bar + 1).trim() });
    } else {
      errors.push({
        line,
        reason: `There is no merge field “${name}”. The fields are: ${MERGE_FIELDS.join(', ')}.`,
      });
    }
    i += close + 2;
  }
  if (text) parts.push({ text });
  return { parts, errors };
}

export interface Rendered {
  readonly text: string;
  /** Fields that were empty and had no fallback: the text has a hole there. */
  readonly holes: readonly MergeField[];
}

/** Fills a template for one recipient. */
export function render(parts: readonly TemplatePart[], values: MergeValues): Rendered {
  const holes: MergeField[] = [];
  let text = '';
  for (const part of parts) {
    if ('text' in part) {
      text += part.text;
      continue;
    }
    const value = values[part.field];
    if (value != null && value !== '') text += value;
    else if (part.fallback != null) text += part.fallback;
    else holes.push(part.field);
  }
  return { text, holes };
}
