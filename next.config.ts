import type { NextConfig } from 'next';
import { PHASE_DEVELOPMENT_SERVER } from 'next/constants';

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  serverExternalPackages: ['@electric-sql/pglite', 'pg', 'pg-copy-streams', 'nodemailer'],
  // Types are checked by `npm test`; a second time they would keep whoever starts the demo waiting.
  typescript: { ignoreBuildErrors: true },
  // What is larger goes to a route that counts it. The page's proxy passes on a little more, so that an action sees that
  // it is too much, and nothing is cut off in silence.
  experimental: { serverActions: { bodySizeLimit: '1mb' }, proxyClientMaxBodySize: '1100kb' },
  headers: async () => [
    {
      source: '/:path*',
      headers: [
        { key: 'X-Content-Type-Options', value: 'nosniff' },
        { key: 'Referrer-Policy', value: 'same-origin' },
        { key: 'X-Frame-Options', value: 'DENY' },
        { key: 'Permissions-Policy', value: 'camera=(), microphone=(), geolocation=()' },
      ],
    },
  ],
};

/** Pages named `page.dev.tsx` are of the development server only. */
const pageExtensions = (phase: string) =>
  phase === PHASE_DEVELOPMENT_SERVER ? ['dev.tsx', 'tsx', 'ts'] : ['tsx', 'ts'];

export default function configFor(phase: string): NextConfig {
  return { ...config, pageExtensions: pageExtensions(phase) };
}
