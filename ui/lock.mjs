// After `npm install`: npm ci wants an entry for every optional package of other platforms, but the registry here
// lacks some of them, so npm leaves them out of the lockfile. Adds an entry for each that no machine will install.
import { readFileSync, writeFileSync } from 'node:fs'

const file = new URL('package-lock.json', import.meta.url)
const lock = JSON.parse(readFileSync(file, 'utf8'))
for (const entry of Object.values({ ...lock.packages })) {
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    lock.packages[`node_modules/${name}`] ??= { version, optional: true, os: ['none'], cpu: ['none'] }
  }
}
lock.packages = Object.fromEntries(Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : 1)))
writeFileSync(file, JSON.stringify(lock, null, 2) + '\n')
