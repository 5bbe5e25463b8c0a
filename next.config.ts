import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  serverExternalPackages: ['@electric-sql/pglite', 'pg', 'pg-copy-streams', 'nodemailer'],
  // Types are checked by `npm test`; a second time they would keep whoever starts the demo waiting.
  typescript: { ignoreBuildErrors: true },
  experimental: { serverActions: { bodySizeLimit: '4mb' } },
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

export default config;
