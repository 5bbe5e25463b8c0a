import { mkdtempSync, readFileSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { now } from './clock';
import { config as kept, rereadConfig as config } from './config';
import { needSpace } from './failure';

const before = { ...process.env };
afterEach(() => {
  process.env = { ...before };
});
const settings = (over: Record<string, string>) => {
  process.env = { ...before, LANTERN_DATA: mkdtempSync(join(tmpdir(), 'lantern-config-')), ...over };
};

describe('settings', () => {
  it('have defaults, and a secret of their own that stays', () => {
    settings({ PORT: '3456' });
    delete process.env.SMTP_URL;
    const first = config();
    expect(first).toMatchObject({ databaseUrl: null, smtpUrl: null, baseUrl: 'http://localhost:3456' });
    expect(first.secret).toHaveLength(64);
    expect(config().secret).toBe(first.secret);
    const kept = join(first.dataFolder, 'secret');
    expect(readFileSync(kept, 'utf8')).toBe(first.secret);
    expect(statSync(kept).mode & 0o077).toBe(0);
  });
  it('are read once: what changes in the environment while the process runs counts for nothing', () => {
    settings({ LANTERN_MAIL_FROM: 'a@x.example' });
    config();
    process.env.LANTERN_MAIL_FROM = 'b@x.example';
    expect(kept().mailFrom).toBe('a@x.example');
    expect(config().mailFrom).toBe('b@x.example');
  });
  it.each([
    [{ LANTERN_MAIL_STANDIN: 'maybe' }, 'LANTERN_MAIL_STANDIN is yes or no'],
    [{ DATABASE_URL: 'mysql://x' }, 'DATABASE_URL must begin with postgres://'],
    [{ SMTP_URL: 'http://x' }, 'SMTP_URL must begin with smtp://'],
    [{ SMTP_URL: 'smtp://a b' }, 'SMTP_URL is not an address'],
    [{ LANTERN_SECRET: 'short' }, 'at least 32 characters'],
    [{ LANTERN_URL: 'example.org' }, 'LANTERN_URL must begin with http'],
    [{ LANTERN_MAIL_FROM: 'nobody' }, 'LANTERN_MAIL_FROM must be an e-mail address'],
    [{ PORT: '70000' }, 'PORT'],
    [{ LANTERN_MAIL_PLAIN: 'maybe' }, 'LANTERN_MAIL_PLAIN is yes or no'],
    [{ LANTERN_TRUSTED_PROXIES: '10.0.0.0/99' }, 'LANTERN_TRUSTED_PROXIES: “10.0.0.0/99” is no address'],
    [{ LANTERN_XAPI_ORIGINS: 'player.example' }, 'LANTERN_XAPI_ORIGINS lists origins'],
    [{ LANTERN_XAPI_ORIGINS: 'https://a.example/path' }, 'LANTERN_XAPI_ORIGINS lists origins'],
    [{ LANTERN_XAPI_KEY: 'platform' }, 'go together'],
  ])('%j is refused in words', (over, message) => {
    settings(over);
    expect(() => config()).toThrow(message);
  });
});

describe('the clock', () => {
  it('is fixed by LANTERN_NOW, and says what is wrong with it', () => {
    process.env.LANTERN_NOW = '2026-11-25T10:35:00+01:00';
    expect(new Date(now()).toISOString()).toBe('2026-11-25T09:35:00.000Z');
    process.env.LANTERN_NOW = 'tomorrow';
    expect(() => now()).toThrow('LANTERN_NOW: “tomorrow” is not an instant');
    delete process.env.LANTERN_NOW;
    expect(Math.abs(now() - Date.now())).toBeLessThan(1000);
  });
});

describe('room on the disk', () => {
  it('is asked for before anything is written', async () => {
    settings({});
    // Not made yet, where the database is on a server.
    process.env.LANTERN_DATA += '/fresh';
    config();
    await expect(needSpace(0)).resolves.toBeUndefined();
    await expect(needSpace(1e18)).rejects.toThrow(
      /nearly full: [\d,]+ MB are free, [\d,]+ MB are needed\. Nothing was changed/,
    );
  });
});
