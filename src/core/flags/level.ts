/** `act`: talk to the student now; `watch`: look again soon. */
export type FlagLevel = 'act' | 'watch';
