export interface TrayItem {
  readonly enrolmentId: number;
  readonly reason: string;
}
