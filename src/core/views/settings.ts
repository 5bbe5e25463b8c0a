import type { PartOfClass } from '../course/parts';
import type { SettingsForm } from '../forms/settings';

/** The thresholds of a course, with what they can be set apart for. */
export interface FlagsView {
  readonly settings: SettingsForm;
  /** Its sections, and the groups with somebody in it. */
  readonly parts: readonly { readonly part: PartOfClass; readonly name: string }[];
  /** Whether the viewer may see whom they find. */
  readonly seesStudents: boolean;
  /** Whether they may see the rules beside. */
  readonly hasRules: boolean;
}
