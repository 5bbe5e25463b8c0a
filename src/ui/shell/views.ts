import {
  Activity,
  BookOpenCheck,
  CalendarClock,
  CalendarRange,
  ClipboardList,
  FileInput,
  IdCard,
  Lamp,
  ListChecks,
  ListOrdered,
  Mail,
  MessageSquarePlus,
  Settings,
  Target,
  Timer,
  TrendingUp,
  UsersRound,
  Zap,
  type LucideIcon,
} from 'lucide-react';

/** A view of a course in the rail. */
export interface RailView {
  /** Its part of the address. */
  readonly part: string;
  readonly label: string;
  readonly icon: LucideIcon;
}

/** The views of a course in their four groups, by what one does there. */
export const RAIL: readonly { readonly heading: string; readonly views: readonly RailView[] }[] = [
  {
    heading: 'Now',
    views: [
      { part: 'rounds', label: 'Rounds', icon: Lamp },
      { part: 'week', label: 'Weekly look', icon: CalendarRange },
      { part: 'session', label: 'Session check', icon: Timer },
      { part: 'card', label: 'Next meeting', icon: IdCard },
      { part: 'passing', label: 'Note in passing', icon: MessageSquarePlus },
    ],
  },
  {
    heading: 'Look',
    views: [
      { part: 'activity', label: 'Activity', icon: Activity },
      { part: 'gradebook', label: 'Gradebook', icon: BookOpenCheck },
      { part: 'trends', label: 'Trends', icon: TrendingUp },
      { part: 'outcomes', label: 'Outcomes', icon: Target },
      { part: 'items', label: 'Items', icon: ListChecks },
      { part: 'lists', label: 'Lists', icon: ClipboardList },
    ],
  },
  {
    heading: 'Act',
    views: [
      { part: 'audiences', label: 'Audiences', icon: UsersRound },
      { part: 'messages', label: 'Messages', icon: Mail },
      { part: 'talks', label: 'Talks', icon: CalendarClock },
      { part: 'plans', label: 'Plans', icon: ListOrdered },
      { part: 'rules', label: 'Flags and rules', icon: Zap },
    ],
  },
  {
    heading: 'Set up',
    views: [
      { part: 'import', label: 'Import', icon: FileInput },
      { part: 'setup', label: 'Course setup', icon: Settings },
    ],
  },
];
