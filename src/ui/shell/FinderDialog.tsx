'use client';
import { Command } from 'cmdk';
import { useRouter } from 'next/navigation';
import { Dialog } from 'radix-ui';
import { type KeyboardEvent, useEffect, useState } from 'react';
import { finderAction } from '@/actions/views';
import { find } from '@/core/people/find';
import type { FinderView } from '@/core/views/finder';
import { finderGroups } from './finderGroups';

const NOTHING: FinderView = { students: [], activities: [] };

/** The dialog of `Finder`. */
export default function FinderDialog({
  code,
  onClose,
}: {
  readonly code: string;
  readonly onClose: () => void;
}) {
  const router = useRouter();
  const [found, setFound] = useState<FinderView | 'failed' | null>(null);
  const [typed, setTyped] = useState('');
  const [chosen, setChosen] = useState('');
  /** Enter was pressed before the names were there: the first that fits is gone to once they are. */
  const [hurried, setHurried] = useState(false);
  useEffect(() => {
    let current = true;
    finderAction({ code }).then(
      (outcome) => current && setFound(outcome.ok ? outcome.value : 'failed'),
      () => current && setFound('failed'),
    );
    return () => {
      current = false;
    };
  }, [code]);

  const groups = find(finderGroups(code, found === 'failed' ? NOTHING : (found ?? NOTHING)), typed);
  const entries = groups.flatMap((g) => g.entries);
  const first = entries[0]?.href;
  const go = (href: string) => {
    onClose();
    router.push(href);
  };
  const late = hurried && found !== null ? first : undefined;
  useEffect(() => {
    if (!late) return;
    onClose();
    router.push(late);
  }, [late, onClose, router]);

  /** Enter goes by what is found, not by what is drawn yet: no press is lost while the list changes. */
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== 'Enter' || event.nativeEvent.isComposing) return;
    event.preventDefault();
    const href = entries.some((e) => e.href === chosen) ? chosen : first;
    if (href) go(href);
    else setHurried(found === null);
  };
  return (
    <Dialog.Root open onOpenChange={onClose}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content className="border-line bg-panel text-ink fixed top-24 left-1/2 z-50 w-[min(34rem,calc(100vw-2rem))] -translate-x-1/2 overflow-hidden rounded-lg border shadow-xl">
          <Dialog.Title className="sr-only">Find a student or command</Dialog.Title>
          <Dialog.Description className="sr-only">
            Type a name, choose with the arrow keys.
          </Dialog.Description>
          <Command
            label="Find a student or command"
            shouldFilter={false}
            value={chosen}
            onValueChange={setChosen}
            onKeyDown={onKeyDown}
          >
            <Command.Input
              autoFocus
              value={typed}
              onValueChange={(text) => {
                setTyped(text);
                setChosen('');
                setHurried(false);
              }}
              placeholder="Name of a student or assignment, or what you want to do"
              className="border-line w-full border-b bg-transparent px-4 py-3 outline-none"
            />
            <Command.List className="max-h-80 overflow-auto p-2">
              <Command.Empty className="text-muted px-2.5 py-3">
                {found ? 'Nobody and nothing by that name.' : 'Loading …'}
              </Command.Empty>
              {found === 'failed' ? (
                <p role="alert" className="text-muted px-2.5 py-1.5 text-sm">
                  The names did not load. Close this and try again.
                </p>
              ) : null}
              {groups.map((group) => (
                <Command.Group
                  key={group.heading}
                  heading={group.heading}
                  className="text-muted mt-2 text-xs first:mt-0 [&_[cmdk-item]]:text-sm"
                >
                  {group.entries.map((entry) => (
                    <Command.Item
                      key={entry.href}
                      value={entry.href}
                      onSelect={() => go(entry.href)}
                      className="data-[selected=true]:bg-amber-wash text-ink flex cursor-pointer items-baseline justify-between gap-3 rounded px-2.5 py-1.5"
                    >
                      <span>{entry.name}</span>
                      <span className="text-muted text-xs">{entry.aside}</span>
                    </Command.Item>
                  ))}
                </Command.Group>
              ))}
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
