// Configuration from the environment, checked once at start.
import { homedir } from 'node:os'
import { join } from 'node:path'
import { z } from 'zod'
import { StandIns } from './ports/registry.ts'

const Config = z.object({
  /** Connection of the application. */
  DATABASE_URL: z.string().regex(/^postgres(ql)?:\/\//, 'must be a postgres:// address'),
  /** Connection of the tables' owner, for migrations; the application's own when not given. */
  MIGRATION_DATABASE_URL: z.string().optional(),
  HOST: z.string().default('127.0.0.1'),
  PORT: z.coerce.number().int().min(0).max(65535).default(8420),
  /** Load the demo plant when the database is empty. */
  DEMO: z.enum(['0', '1']).default('0'),
  /** Built web application to serve; none when not given. */
  WEB_ROOT: z.string().optional(),
  /**
   * The key that seals signatures: a file that is made where there is none. Several servers of one database may share
   * it or have one each.
   */
  SEAL_KEY_FILE: z.string().default(join(homedir(), '.local', 'share', 'calm-loop', 'seal-key.json')),
  /**
   * Proxies in front whose word on address and TLS is believed: a number of hops, or their addresses. None when not
   * given.
   */
  TRUST_PROXY: z.string().optional(),
  /** Address under which the application is reached, printed on certificates; that of the request when not given. */
  PUBLIC_URL: z
    .url({ protocol: /^https?$/ })
    .transform((u) => u.replace(/\/+$/, ''))
    .optional(),
  /** Where the other servers of the same database reach this one, where they run on other machines. */
  PEER_URL: z.url({ protocol: /^https?$/ }).optional(),
  /** How many times the usual a piece of work may take before it is refused; for slow machines. */
  WORK_PATIENCE: z.coerce.number().min(1).max(20).default(1),
  /** How many times faster than a clock simulated devices go on; for tests that would only wait. */
  PRACTICE_PACE: z.coerce.number().int().min(1).max(20).default(1),
  /** Stand-ins of the bench that the start command runs, as JSON. */
  STAND_INS: z
    .string()
    .default('[]')
    .transform((text) => StandIns.parse(JSON.parse(text))),
  /** Folder of backups that are asked for on a page, and with what they are made; none when not given. */
  BACKUP_INTO: z.string().optional(),
  BACKUP_PROGRAMS: z.string().optional(),
  BACKUP_PASSPHRASE_FILE: z.string().optional(),
  BACKUP_DAYS: z.coerce.number().min(1).max(3650).default(14),
  /** Holds every answer against the contract before it goes out: for development. */
  PROVE_ANSWERS: z.enum(['0', '1']).default('0'),
  LOG_LEVEL: z.enum(['fatal', 'error', 'warn', 'info', 'debug', 'silent']).default('warn'),
})
export type Config = z.infer<typeof Config>

/** Reads the configuration, or says in words what is wrong with it. */
export function readConfig(environment: NodeJS.ProcessEnv): Config {
  const parsed = Config.safeParse(environment)
  if (parsed.success) return parsed.data
  throw new Error(
    `The configuration is not usable: ${parsed.error.issues.map((i) => `${i.path.join('.')} ${i.message}`).join('; ')}`,
  )
}
