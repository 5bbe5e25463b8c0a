import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { Frame } from '@/ui/shell/Frame';
import './globals.css';

export const metadata: Metadata = { title: { default: 'Ready Lantern', template: '%s · Ready Lantern' } };

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <Frame nonce={nonce}>{children}</Frame>
      </body>
    </html>
  );
}
