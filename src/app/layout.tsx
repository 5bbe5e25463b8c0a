import type { Metadata } from 'next';
import { headers } from 'next/headers';
import { NuqsAdapter } from 'nuqs/adapters/next/app';
import type { ReactNode } from 'react';
import { Frame } from '@/ui/shell/Frame';
import { faces } from './fonts';
import { KEEP_PRESSES } from './keepPresses';
import './globals.css';

export const metadata: Metadata = { title: { default: 'Ready Lantern', template: '%s · Ready Lantern' } };

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en" className={faces} suppressHydrationWarning>
      <body>
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: KEEP_PRESSES }} />
        <Frame nonce={nonce}>
          <NuqsAdapter>{children}</NuqsAdapter>
        </Frame>
      </body>
    </html>
  );
}
