// Two servers on one PostgreSQL with Debian's nginx in front, as docs/deploy.md says it.
import { spawn } from 'node:child_process'
import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { freePort } from '../scripts/lib/postgres.mjs'
import { dataFolder, throwAway } from './run-server.ts'
import { twoServers, type TwoServers } from './two-servers.ts'

export const NGINX = '/usr/sbin/nginx'
export const hasNginx = existsSync(NGINX)

/**
 * What stands in front: what one server does not answer, the other is asked; every write may be sent twice. None is
 * counted out (max_fails=0): a stream that stays open would be the one try that a server gets after a failure, and all
 * others were refused meanwhile.
 */
const conf = (folder: string, port: number, servers: readonly number[]) => `
worker_processes 1;
daemon off;
pid ${folder}/nginx.pid;
error_log ${folder}/error.log;
events { worker_connections 512; }
http {
  access_log off;
  client_body_temp_path ${folder}/body;
  proxy_temp_path ${folder}/proxy;
  fastcgi_temp_path ${folder}/fastcgi;
  uwsgi_temp_path ${folder}/uwsgi;
  scgi_temp_path ${folder}/scgi;
  upstream calm_loop {
${servers.map((s) => `    server 127.0.0.1:${s} max_fails=0;`).join('\n')}
  }
  server {
    listen 127.0.0.1:${port};
    client_max_body_size 64m;
    location / {
      proxy_pass http://calm_loop;
      proxy_http_version 1.1;
      proxy_set_header Host $http_host;
      proxy_set_header Connection "";
      proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for;
      proxy_set_header X-Forwarded-Proto $scheme;
      proxy_next_upstream error timeout non_idempotent;
      proxy_connect_timeout 2s;
      proxy_buffering off;
      proxy_read_timeout 1h;
    }
  }
}
`

export interface Works extends Pick<TwoServers, 'kill' | 'revive' | 'stop'> {
  readonly base: string
}

export async function behindNginx(): Promise<Works> {
  const folder = dataFolder()
  const { ports, kill, revive, stop } = await twoServers(folder)
  const port = await freePort()
  const place = join(folder, 'nginx')
  mkdirSync(place, { recursive: true })
  writeFileSync(join(place, 'nginx.conf'), conf(place, port, ports))
  const front = spawn(NGINX, ['-p', place, '-c', join(place, 'nginx.conf')], { stdio: ['ignore', 'ignore', 'inherit'] })
  const base = `http://127.0.0.1:${port}`
  for (let tries = 0; !(await fetch(`${base}/healthz`).catch(() => undefined))?.ok; tries++) {
    if (tries > 100) throw new Error('nginx does not answer')
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  return {
    base,
    kill,
    revive,
    async stop() {
      front.kill('SIGTERM')
      await stop()
      throwAway(folder)
    },
  }
}
