import type { NextConfig } from 'next';

const settings: NextConfig = {
  distDir: process.env['EMBRIN_DIST'] ?? '.next',
  poweredByHeader: false,
  reactStrictMode: true,
  // Types are checked by the test command, over everything at once.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: [
    '@node-rs/argon2',
    '@tus/server',
    'better-auth',
    'file-type',
    'hash-wasm',
    'nodemailer',
    'pg',
    'pino',
    'pg-boss',
    'sharp',
  ],
};

export default settings;
