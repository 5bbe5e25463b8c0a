'use server';
import * as yup from 'yup';
import { guardsForm, ruleForm, type RuleForm } from '@/core/forms/rule';
import { idNumber } from '@/core/forms/rules';
import {
  answerWaiting,
  beginDryRun,
  closeWord,
  endRule,
  moveRule,
  saveGuards,
  saveRule,
  switchRule,
} from '@/server/unasked/manage';
import { asks, changes, courseCode, was } from './run';

const ruleInput = yup.object({ code: courseCode, rule: ruleForm });
/** A form that was checked by its schema, whose parts Yup cannot name. */
const formOf = (rule: unknown): RuleForm => rule as RuleForm;

export const saveRuleAction = changes(ruleInput.shape({ was }), (viewer, { code, rule, was: opened }) =>
  saveRule(viewer, code, formOf(rule), opened),
);
export const dryRunAction = asks(ruleInput, (viewer, { code, rule }) =>
  beginDryRun(viewer, code, formOf(rule)),
);

const byId = yup.object({ code: courseCode, id: idNumber });
const switched = byId.shape({ on: yup.boolean().required() });
export const switchRuleAction = changes(switched, (viewer, { code, id, on }) =>
  switchRule(viewer, code, id, on),
);
export const endRuleAction = changes(byId, (viewer, { code, id }) => endRule(viewer, code, id));
const moved = byId.shape({ up: yup.boolean().required() });
export const moveRuleAction = changes(moved, (viewer, { code, id, up }) => moveRule(viewer, code, id, up));

const answered = yup.object({
  code: courseCode,
  ids: yup.array(idNumber).min(1, 'Choose at least one message.').max(2000).required(),
  yes: yup.boolean().required(),
});
export const answerWaitingAction = changes(answered, (viewer, { code, ids, yes }) =>
  answerWaiting(viewer, code, ids, yes),
);
const closed = byId.shape({ done: yup.boolean().required() });
export const closeWordAction = changes(closed, (viewer, { code, id, done }) =>
  closeWord(viewer, code, id, done),
);
const guarded = yup.object({ code: courseCode, guards: guardsForm, was });
export const saveGuardsAction = changes(guarded, (viewer, { code, guards, was: opened }) =>
  saveGuards(viewer, code, guards, opened),
);
