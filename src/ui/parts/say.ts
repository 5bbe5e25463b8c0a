import type { toast as notice } from 'sonner';

type Notice = typeof notice;

let isThere: () => void = () => undefined;
const place = new Promise<void>((resolve) => (isThere = resolve));
/** Told by the place where results are announced, once it is there: what was said before would not be seen. */
export const announcing = (): void => isThere();

/** Says something once there is a place for it. */
const saying = async (say: (toast: Notice) => void): Promise<void> => {
  const { toast } = await import('sonner');
  await place;
  say(toast);
};

/** Announces how something went, over whatever page. */
export const say = {
  error: (message: string): void => void saying((toast) => toast.error(message)),
  info: (message: string): void => void saying((toast) => toast.info(message)),
  success: (message: string, undo?: () => void): void =>
    void saying((toast) =>
      toast.success(message, { action: undo ? { label: 'Undo', onClick: () => undo() } : undefined }),
    ),
} as const;
