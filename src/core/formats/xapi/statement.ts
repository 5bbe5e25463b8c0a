import * as yup from 'yup';
import { no, ok, type Result } from '../../result';
import { BROKEN_TEXT, holdsBroken } from '../brokenText';
import { ANY_YEAR, parseInstant } from '../instant';
import { parseDuration } from './duration';

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;
const IRI = /^[a-z][a-z0-9+.-]*:[^\s<>"{}|\\^`]+$/i;
const LANGUAGE = /^[a-z]{2,8}(-[a-z0-9]{1,8})*$/i;
/** Longest text of a statement: a response may be an essay, never a book. */
const LONGEST = 100_000;

const iri = () => yup.string().matches(IRI, '${path} is not an IRI').max(2000);
const uuid = () => yup.string().matches(UUID, '${path} is not a UUID');
const text = () => yup.string().max(LONGEST, '${path} is longer than 100,000 characters');

const instant = () =>
  yup.string().test('instant', (value, context) => {
    if (value == null) return true;
    if (value.endsWith('-00:00') || value.endsWith('-0000') || value.endsWith('-00'))
      return context.createError({ message: `\${path} has the offset -00:00, which means no zone` });
    const read = parseInstant(value, ANY_YEAR);
    return read.ok || context.createError({ message: `\${path}: ${read.reason}` });
  });

/** A map from language tags to text (part two, 4.2), or from IRIs to anything (4.1). */
const mapOf = (keys: RegExp, what: string, values: 'text' | 'anything') =>
  yup.mixed<Record<string, unknown>>().test('map', `\${path} is not a map of ${what}`, (value: unknown) => {
    if (value === undefined) return true;
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
    return Object.entries(value).every(
      ([key, v]) => keys.test(key) && (values === 'anything' || typeof v === 'string'),
    );
  });
const languages = () => mapOf(LANGUAGE, 'languages', 'text');
const extensions = () => mapOf(IRI, 'IRIs', 'anything');

const account = yup
  .object({ homePage: iri().required(), name: yup.string().min(1).max(500).required() })
  .noUnknown()
  .default(undefined);
const identifiers = {
  mbox: yup.string().matches(/^mailto:[^\s@<>,;"]+@[^\s@<>,;"]+$/, '${path} is not a mailto address'),
  mbox_sha1sum: yup.string().matches(/^[0-9a-f]{40}$/i, '${path} is not a SHA-1 sum'),
  openid: iri(),
  account,
};
export const IDENTIFIERS = ['mbox', 'mbox_sha1sum', 'openid', 'account'] as const;
const countOf = (value: object) => IDENTIFIERS.filter((key) => key in value).length;

const agent = yup
  .object({ objectType: yup.string().oneOf(['Agent']), name: text(), ...identifiers })
  .noUnknown()
  .default(undefined)
  .test('one', '${path} needs exactly one of mbox, mbox_sha1sum, openid and account', (v) =>
    v === undefined ? true : countOf(v) === 1,
  );
const group = yup
  .object({
    objectType: yup.string().oneOf(['Group']).required(),
    name: text(),
    member: yup.array(agent.required()).max(1000),
    ...identifiers,
  })
  .noUnknown()
  .default(undefined)
  .test('one', '${path} needs members, or exactly one identifier', (v) =>
    v === undefined ? true : countOf(v) === 1 || (countOf(v) === 0 && (v.member?.length ?? 0) > 0),
  );

const typeOf = (value: unknown): unknown =>
  typeof value === 'object' && value !== null && 'objectType' in value ? value.objectType : undefined;
const actor = yup.lazy((value: unknown) => (typeOf(value) === 'Group' ? group : agent));

const statementRef = yup
  .object({ objectType: yup.string().oneOf(['StatementRef']).required(), id: uuid().required() })
  .noUnknown()
  .default(undefined);
const interaction = yup
  .array(yup.object({ id: yup.string().max(1000).required(), description: languages() }).noUnknown())
  .max(1000);
const activity = yup
  .object({
    objectType: yup.string().oneOf(['Activity']),
    id: iri().required(),
    definition: yup
      .object({
        name: languages(),
        description: languages(),
        type: iri(),
        moreInfo: iri(),
        extensions: extensions(),
        interactionType: yup
          .string()
          .oneOf([
            'true-false',
            'choice',
            'fill-in',
            'long-fill-in',
            'matching',
            'performance',
            'sequencing',
            'likert',
            'numeric',
            'other',
          ]),
        correctResponsesPattern: yup.array(text().defined()).max(1000),
        choices: interaction,
        scale: interaction,
        source: interaction,
        target: interaction,
        steps: interaction,
      })
      .noUnknown()
      .default(undefined),
  })
  .noUnknown()
  .default(undefined);

const verb = yup.object({ id: iri().required(), display: languages() }).noUnknown().default(undefined);
const number = () =>
  yup.number().test('finite', '${path} is not a number', (v) => v == null || Number.isFinite(v));
const score = yup
  .object({ scaled: number().min(-1).max(1), raw: number(), min: number(), max: number() })
  .noUnknown()
  .default(undefined)
  .test('range', '${path} has raw, min and max out of order', (v) => {
    if (v === undefined) return true;
    const { raw, min, max } = v;
    return !(
      (min != null && max != null && min >= max) ||
      (raw != null && min != null && raw < min) ||
      (raw != null && max != null && raw > max)
    );
  });
const result = yup
  .object({
    score,
    success: yup.boolean(),
    completion: yup.boolean(),
    response: text(),
    duration: yup.string().test('duration', (value, context) => {
      if (value == null) return true;
      const read = parseDuration(value);
      return read.ok || context.createError({ message: `\${path}: ${read.reason}` });
    }),
    extensions: extensions(),
  })
  .noUnknown()
  .default(undefined);

/** One activity where an array is meant is taken as an array of one (part two, 2.4.6.2). */
const activities = yup.lazy((value: unknown) =>
  Array.isArray(value) ? yup.array(activity.required()).max(1000) : activity,
);
const agents = yup.array(yup.object().required()).max(1000);
const context = yup
  .object({
    registration: uuid(),
    instructor: actor,
    team: group,
    contextActivities: yup
      .object({ parent: activities, grouping: activities, category: activities, other: activities })
      .noUnknown()
      .default(undefined),
    // New in IEEE 9274.1.1; kept as they are.
    contextAgents: agents,
    contextGroups: agents,
    revision: text(),
    platform: text(),
    language: yup.string().matches(LANGUAGE, '${path} is not a language'),
    statement: statementRef,
    extensions: extensions(),
  })
  .noUnknown()
  .default(undefined);

const attachment = yup.object({
  usageType: iri().required(),
  display: languages().required(),
  description: languages(),
  contentType: yup.string().required(),
  length: yup.number().integer().required(),
  sha2: yup.string().required(),
  fileUrl: iri(),
});

const base = {
  actor: actor,
  verb: verb.required(),
  result,
  context,
  timestamp: instant(),
  attachments: yup.array(attachment.required()).max(100),
};
const subStatement = yup
  .object({
    ...base,
    objectType: yup.string().oneOf(['SubStatement']).required(),
    object: yup.lazy((value: unknown) => objectSchema(value, false)),
  })
  .noUnknown()
  .default(undefined);

function objectSchema(value: unknown, outer: boolean): yup.ISchema<unknown> {
  switch (typeOf(value)) {
    case 'StatementRef':
      return statementRef.required();
    case 'Agent':
      return agent.required();
    case 'Group':
      return group.required();
    case 'SubStatement':
      return outer ? subStatement.required() : activity.required();
    default:
      return activity.required();
  }
}

const statement = yup
  .object({
    id: uuid(),
    ...base,
    object: yup.lazy((value: unknown) => objectSchema(value, true)),
    stored: instant(),
    authority: actor,
    version: yup.string().matches(/^(1\.0(\.\d+)?|2\.0\.0)$/, '${path} is none that we speak'),
  })
  .noUnknown('${path} has properties that no statement has: ${unknown}');

export interface Agent {
  readonly objectType?: string;
  readonly name?: string;
  readonly mbox?: string;
  readonly mbox_sha1sum?: string;
  readonly openid?: string;
  readonly account?: { readonly homePage: string; readonly name: string };
}
export interface ActivityObject {
  readonly objectType?: string;
  readonly id: string;
  readonly definition?: { readonly name?: Record<string, string>; readonly type?: string };
}

/** A checked statement: what we look at, with everything else kept as it came. */
export interface Statement {
  readonly id?: string;
  readonly actor: Agent;
  readonly verb: { readonly id: string };
  readonly object: { readonly objectType?: string; readonly id?: string };
  readonly result?: {
    readonly score?: {
      readonly scaled?: number;
      readonly raw?: number;
      readonly min?: number;
      readonly max?: number;
    };
    readonly success?: boolean;
    readonly completion?: boolean;
    readonly response?: string;
    readonly duration?: string;
  };
  readonly context?: {
    readonly registration?: string;
    readonly contextActivities?: Partial<Record<'parent' | 'grouping' | 'category' | 'other', unknown>>;
    readonly extensions?: Record<string, unknown>;
  };
  readonly timestamp?: string;
  readonly stored?: string;
  readonly attachments?: readonly { readonly fileUrl?: string; readonly usageType: string }[];
}

/** Path of the first null outside extensions (part two, 2.2: none may be null); null if there is none. */
function nullAt(value: unknown, path: string): string | null {
  if (value === null) return path;
  if (typeof value !== 'object') return null;
  for (const [key, inner] of Object.entries(value)) {
    if (key === 'extensions') continue;
    const found = nullAt(inner, path === '' ? key : `${path}.${key}`);
    if (found) return found;
  }
  return null;
}

/** Deepest nesting of a statement: more is nobody's data, and would only exhaust who reads it. */
const DEEPEST = 24;
const tooDeep = (value: unknown, depth: number): boolean =>
  typeof value === 'object' &&
  value !== null &&
  (depth > DEEPEST || Object.values(value).some((v) => tooDeep(v, depth + 1)));

/**
 * Checks one statement against the data model (xAPI 1.0.3, part two, section 2; IEEE 9274.1.1 where it adds). The
 * reason names the property at fault.
 */
export function readStatement(value: unknown): Result<Statement> {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return no('is not a statement');
  if (tooDeep(value, 0)) return no('is nested deeper than 24 levels');
  if (holdsBroken(value)) return no(BROKEN_TEXT);
  const empty = nullAt(value, '');
  if (empty) return no(`${empty} is null`);
  for (const needed of ['actor', 'verb', 'object'])
    if (!Object.keys(value).includes(needed)) return no(`${needed} is missing`);
  try {
    // The schema is the type: what it lets through has the shape of a statement.
    const checked = statement.validateSync(value, { strict: true }) as unknown as Statement;
    const platform = checked.context && ('platform' in checked.context || 'revision' in checked.context);
    const onActivity = [undefined, 'Activity'].includes(checked.object.objectType);
    if (platform && !onActivity) return no('context.revision and context.platform are for activities only');
    return ok(checked);
  } catch (error) {
    if (error instanceof yup.ValidationError) return no(error.message);
    throw error;
  }
}
