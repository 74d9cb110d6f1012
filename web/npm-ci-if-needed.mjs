// Runs `npm ci` only when the lock file or Node changed since the last install: it costs half a minute.
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { spawnSync } from 'node:child_process'

const stamp = 'node_modules/.installed-for'
const want = createHash('sha256')
  .update(readFileSync('package-lock.json'))
  .update(process.version)
  .digest('hex')
if (existsSync(stamp) && readFileSync(stamp, 'utf8') === want) {
  console.log('node_modules is up to date')
} else {
  const run = spawnSync('npm', ['ci'], { stdio: 'inherit', shell: process.platform === 'win32' })
  if (run.status !== 0) process.exit(run.status ?? 1)
  writeFileSync(stamp, want)
}
