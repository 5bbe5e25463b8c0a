import * as yup from 'yup';
import { no, ok, type Result } from '../../result';
import { BROKEN_TEXT, holdsBroken } from '../brokenText';
import { DEEPEST_JSON } from '../json';
import { parseDuration } from './duration';
import { instantFault } from './timestamp';
import { isLanguageTag } from './language';
import { isIri, isUuid, utf8Length } from './names';
import { VOIDED } from './verbs';

/** Longest text of a statement: a response may be an essay, never a book. */
const LONGEST = 100_000;

const iri = () => yup.string().test('iri', '${path} is not an IRI', (v) => v == null || isIri(v));
const uuid = () => yup.string().test('uuid', '${path} is not a UUID', (v) => v == null || isUuid(v));
const text = () => yup.string().max(LONGEST, '${path} is longer than 100,000 characters');

const instant = () =>
  yup.string().test('instant', (value, context) => {
    const fault = value == null ? null : instantFault(value);
    return fault == null || context.createError({ message: `\${path}${fault}` });
  });

/** A map from language tags to text (part two, 4.2), or from IRIs to anything (4.1). */
const mapOf = (isKey: (key: string) => boolean, what: string, values: 'text' | 'anything') =>
  yup.mixed<Record<string, unknown>>().test('map', `\${path} is not a map of ${what}`, (value: unknown) => {
    if (value === undefined) return true;
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
    return Object.entries(value).every(
      ([key, v]) => isKey(key) && (values === 'anything' || typeof v === 'string'),
    );
  });
const languages = () => mapOf(isLanguageTag, 'languages', 'text');
const extensions = () => mapOf(isIri, 'IRIs', 'anything');

const shortText = (most: number) =>
  yup
    .string()
    .test('short', `\${path} is longer than ${most} bytes`, (v) => v == null || utf8Length(v) <= most);
const account = yup
  .object({ homePage: iri().required(), name: shortText(500).min(1).required() })
  .noUnknown()
  .default(undefined);
const identifiers = {
  mbox: shortText(1000).matches(/^mailto:[^\s@<>,;"]+@[^\s@<>,;"]+$/, '${path} is not a mailto address'),
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
const someone = yup.lazy((value: unknown) =>
  typeOf(value) === 'Group' ? group.required() : agent.required('${path} is missing'),
);
/** Who answers for a statement: an agent, or the pair of an application and its user (part two, 2.4.9). */
const authority = yup.lazy((value: unknown) =>
  typeOf(value) === 'Group'
    ? group.test(
        'pair',
        '${path} is a group of other than two',
        (v) => v == null || (v.member?.length === 2 && countOf(v) === 0),
      )
    : agent,
);

const statementRef = yup
  .object({ objectType: yup.string().oneOf(['StatementRef']).required(), id: uuid().required() })
  .noUnknown()
  .default(undefined);
const interaction = yup
  .array(yup.object({ id: yup.string().max(1000).required(), description: languages() }).noUnknown())
  .max(1000)
  .test('distinct', '${path} has the same id twice', (list) => {
    const ids = (list ?? []).map((component) => component?.id);
    return new Set(ids).size === ids.length;
  });
/** What only an interaction has (part two, 2.4.4.1). */
const OF_INTERACTIONS = ['correctResponsesPattern', 'choices', 'scale', 'source', 'target', 'steps'] as const;
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
      .default(undefined)
      .test('interaction', '${path} has parts of an interaction, and no interactionType', (v) => {
        return v?.interactionType != null || !OF_INTERACTIONS.some((key) => v?.[key] != null);
      }),
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
const types = yup.array(iri().required()).min(1).max(1000);
/** New in IEEE 9274.1.1 (its 4.2.7): those who have to do with the event, and as what. */
const contextAgents = yup
  .array(
    yup
      .object({
        objectType: yup.string().oneOf(['contextAgent']).required(),
        agent: agent.required(),
        relevantTypes: types,
      })
      .noUnknown(),
  )
  .max(1000);
const contextGroups = yup
  .array(
    yup
      .object({
        objectType: yup.string().oneOf(['contextGroup']).required(),
        group: group.required(),
        relevantTypes: types,
      })
      .noUnknown(),
  )
  .max(1000);
const context = yup
  .object({
    registration: uuid(),
    instructor: actor,
    team: group,
    contextActivities: yup
      .object({ parent: activities, grouping: activities, category: activities, other: activities })
      .noUnknown()
      .default(undefined),
    contextAgents,
    contextGroups,
    revision: text(),
    platform: text(),
    language: yup
      .string()
      .test('language', '${path} is not a language tag', (v) => v == null || isLanguageTag(v)),
    statement: statementRef,
    extensions: extensions(),
  })
  .noUnknown()
  .default(undefined);

const attachment = yup
  .object({
    usageType: iri().required(),
    display: languages().required(),
    description: languages(),
    contentType: yup
      .string()
      .matches(/^[\w!#$&^.+-]+\/[\w!#$&^.+-]+([ \t]*;[\x20-\x7e]*)?$/, '${path} is not a media type')
      .max(300)
      .required(),
    length: yup.number().integer().min(0, '${path} is under zero').required(),
    sha2: yup.string().max(200).required(),
    fileUrl: iri(),
  })
  .noUnknown();

const base = {
  actor: someone,
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
    authority,
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
  readonly attachments?: readonly Attachment[];
}

/** What goes with a statement: its bytes stand at `fileUrl`, or come beside the statement under their hash. */
export interface Attachment {
  readonly usageType: string;
  readonly contentType: string;
  readonly length: number;
  readonly sha2: string;
  readonly fileUrl?: string;
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

const tooDeep = (value: unknown, depth: number): boolean =>
  typeof value === 'object' &&
  value !== null &&
  (depth > DEEPEST_JSON || Object.values(value).some((v) => tooDeep(v, depth + 1)));

/** Versions of the standard by which a statement can be checked; see `readStatement`. */
export type SpokenVersion = '1.0.3' | '2.0.0';

/** What stands in statements of IEEE 9274.1.1 only. */
const NEW_IN_TWO = ['contextAgents', 'contextGroups'] as const;

/** What one property alone does not tell: of the statement itself, and of the statement inside of it. */
function faultOf(of: Statement, where: string, version: SpokenVersion): string | null {
  const { context, object, verb } = of;
  const onActivity = [undefined, 'Activity'].includes(object.objectType);
  const platform = context && ('platform' in context || 'revision' in context);
  if (platform && !onActivity) return `${where}context.revision and context.platform are for activities only`;
  const newer = NEW_IN_TWO.find((key) => context && key in context);
  if (newer && version !== '2.0.0') return `${where}context.${newer} is of version 2.0.0`;
  // Part two, 2.3.2: what is voided is told by a reference.
  if (verb.id === VOIDED && object.objectType !== 'StatementRef')
    return `${where}verb is voided, and object is not a StatementRef`;
  if (object.objectType !== 'SubStatement') return null;
  // The schema has checked it as it has the outer one.
  return faultOf(object as unknown as Statement, `${where}object.`, version);
}

/**
 * Checks one statement against the data model (xAPI 1.0.3, part two, section 2; IEEE 9274.1.1 where it adds). The
 * reason names the property at fault.
 *
 * @param version by which the statement is sent; what came with 2.0.0 is no part of a statement of 1.0.3
 */
export function readStatement(value: unknown, version: SpokenVersion = '2.0.0'): Result<Statement> {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return no('is not a statement');
  if (tooDeep(value, 0)) return no(`is nested deeper than ${DEEPEST_JSON} levels`);
  if (holdsBroken(value)) return no(BROKEN_TEXT);
  const empty = nullAt(value, '');
  if (empty) return no(`${empty} is null`);
  for (const needed of ['actor', 'verb', 'object'])
    if (!Object.keys(value).includes(needed)) return no(`${needed} is missing`);
  try {
    // The schema is the type: what it lets through has the shape of a statement.
    const checked = statement.validateSync(value, { strict: true }) as unknown as Statement;
    // Part two, 2.4.10: 1.0.3 takes what begins with 1.0. only.
    if (version === '1.0.3' && 'version' in value && value.version === '2.0.0')
      return no('version is 2.0.0, and the request is of 1.0.3');
    const fault = faultOf(checked, '', version);
    return fault == null ? ok(checked) : no(fault);
  } catch (error) {
    if (error instanceof yup.ValidationError) return no(error.message);
    throw error;
  }
}

/**
 * Checks an agent, or a group with an identifier of its own, as requests ask by (part three, 2.1.3). A group of members
 * alone is nobody to ask by.
 */
export function readAgent(value: unknown): Result<Agent> {
  if (holdsBroken(value)) return no(`agent ${BROKEN_TEXT}`);
  try {
    const checked = actor.validateSync(value, { strict: true }) as Agent | undefined;
    if (checked === undefined || countOf(checked) !== 1) return no('agent has no identifier');
    return ok(checked);
  } catch (error) {
    if (error instanceof yup.ValidationError)
      return no(
        error.message.startsWith('this') ? `agent${error.message.slice(4)}` : `agent: ${error.message}`,
      );
    throw error;
  }
}
