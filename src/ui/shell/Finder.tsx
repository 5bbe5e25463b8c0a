'use client';
import { Command } from 'cmdk';
import { useRouter } from 'next/navigation';
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import { Key } from '../parts/Button';
import { useKeys } from '../parts/useKeys';
import { KeyList } from './KeyList';

interface Props {
  readonly code: string;
  readonly students: readonly {
    readonly id: number;
    readonly name: string;
    readonly section: string | null;
  }[];
}

const item =
  'flex cursor-pointer items-baseline justify-between gap-3 rounded px-2.5 py-1.5 data-[selected=true]:bg-amber-wash';

/** Finds a student or a command: Ctrl or Cmd with K from anywhere in a course. `?` lists the keys. */
export function Finder({ code, students }: Props) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [keysOpen, setKeysOpen] = useState(false);
  useKeys({ '?': () => setKeysOpen(true) });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() === 'k' && (event.metaKey || event.ctrlKey)) {
        event.preventDefault();
        setOpen((was) => !was);
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  const go = (href: string) => {
    setOpen(false);
    router.push(href);
  };
  const base = `/c/${code}`;
  const commands = [
    { label: 'Go to Rounds', href: `${base}/rounds` },
    { label: 'Show everyone in the course', href: `${base}/rounds?show=everyone` },
    { label: 'Go to the weekly look', href: `${base}/week` },
    { label: 'Go to Activity: who has not logged in', href: `${base}/activity` },
    { label: 'Go to the session check', href: `${base}/session` },
    { label: 'Go to the Gradebook', href: `${base}/gradebook` },
    { label: 'Grade what waits', href: `${base}/gradebook?status=awaiting+grade` },
    { label: 'Go to Trends', href: `${base}/trends` },
    { label: 'Go to Lists: missing, late, excused', href: `${base}/lists` },
    { label: 'Go to Messages', href: `${base}/messages` },
    { label: 'Go to Plans', href: `${base}/plans` },
    { label: 'Import files', href: `${base}/import` },
    { label: 'Change the indicators', href: `${base}/indicators` },
  ];
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="text-muted hover:text-ink border-line hover:border-ink flex w-full items-center justify-between rounded-md border px-2.5 py-1.5 text-[13px]"
      >
        <span>
          Find<span className="sr-only"> a student or command</span>
        </span>
        <Key>Ctrl K</Key>
      </button>
      <Dialog.Root open={open} onOpenChange={setOpen}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
          <Dialog.Content className="border-line bg-panel text-ink fixed top-24 left-1/2 z-50 w-[min(34rem,calc(100vw-2rem))] -translate-x-1/2 overflow-hidden rounded-lg border shadow-xl">
            <Dialog.Title className="sr-only">Find a student or command</Dialog.Title>
            <Dialog.Description className="sr-only">
              Type a name, choose with the arrow keys.
            </Dialog.Description>
            <Command label="Find a student or command">
              <Command.Input
                autoFocus
                placeholder="Name of a student, or what you want to do"
                className="border-line w-full border-b bg-transparent px-4 py-3 outline-none"
              />
              <Command.List className="max-h-80 overflow-auto p-2">
                <Command.Empty className="text-muted px-2.5 py-3">
                  Nobody and nothing by that name.
                </Command.Empty>
                <Command.Group heading="Commands" className="text-muted text-xs [&_[cmdk-item]]:text-sm">
                  {commands.map((c) => (
                    <Command.Item key={c.href} onSelect={() => go(c.href)} className={`${item} text-ink`}>
                      {c.label}
                    </Command.Item>
                  ))}
                </Command.Group>
                <Command.Group heading="Students" className="text-muted mt-2 text-xs [&_[cmdk-item]]:text-sm">
                  {students.map((s) => (
                    <Command.Item
                      key={s.id}
                      value={`${s.name} ${s.id}`}
                      keywords={[s.name.normalize('NFD').replace(/[\u0300-\u036f]/g, '')]}
                      onSelect={() => go(`${base}/students/${s.id}`)}
                      className={`${item} text-ink`}
                    >
                      <span>{s.name}</span>
                      <span className="text-muted text-xs">{s.section}</span>
                    </Command.Item>
                  ))}
                </Command.Group>
              </Command.List>
            </Command>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
      <KeyList open={keysOpen} onOpenChange={setKeysOpen} />
    </>
  );
}
