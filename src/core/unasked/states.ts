/** Whether a rule acts: it pauses by itself where something it rests on is gone; one that ended stays in the log. */
export const RULE_SWITCHES = ['off', 'on', 'paused', 'ended'] as const;
export type RuleSwitch = (typeof RULE_SWITCHES)[number];

/**
 * What became of an occasion: it waits for a yes, is to go, went, was held back, was declined; or is a word to the
 * instructor, open or dealt with.
 */
export const OCCASION_STATES = ['waiting', 'to go', 'sent', 'held', 'declined', 'word', 'done'] as const;
export type OccasionState = (typeof OCCASION_STATES)[number];
