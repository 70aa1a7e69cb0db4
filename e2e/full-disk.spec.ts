import { expect, test as plain } from '@playwright/test'
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const program = process.env.AMBERSEAL ?? join(import.meta.dirname, '../bin/amberseal')
const owner = { email: 'owner@tarnhollow.example', password: 'amber-and-paper' }

// The system itself refuses files of more than 12 MB (setrlimit(2), RLIMIT_FSIZE), as a full disk would.
plain('a full disk is told with advice, what was taken in can be read, and nothing is lost', async ({ playwright }) => {
  const data = mkdtempSync(join(tmpdir(), 'amberseal-full-'))
  const child = spawn(
    'bash',
    ['-c', 'ulimit -f 12288; exec "$@"', 'bash', program, 'demo', '--listen', '127.0.0.1:0', '--data', data],
    {
      stdio: ['ignore', 'pipe', 'ignore'],
    },
  )
  try {
    const baseURL = await new Promise<string>((resolve, reject) => {
      child.stdout.on('data', (text: Buffer) => {
        const m = /http:\/\/[\d.:]+/.exec(text.toString())
        if (m) resolve(m[0])
      })
      child.on('exit', () => reject(new Error('the program ended before it listened')))
    })
    const api = await playwright.request.newContext({ baseURL, extraHTTPHeaders: { Origin: baseURL } })
    expect((await api.post('/api/session', { data: owner })).ok()).toBe(true)
    const all = async () => ((await (await api.get('/api/submissions')).json()) as { all: number }).all
    const before = await all()
    let taken = 0
    let refused
    // Small ones may still find room where a large one found none: until nothing does.
    for (let n = 0, long = 1500, inARow = 0; n < 3000 && inARow < 10; n++) {
      const story = 'long '.repeat(long)
      const answers = { name: `Person ${n}`, email: `p${n}@full.example`, instrument: 'Oboe', story }
      const r = await api.post('/api/public/intakes/gift/submissions', { data: { answers } })
      if (r.ok()) {
        taken++
        inARow = 0
      } else {
        refused = r
        long = 0
        inARow++
      }
    }
    expect(refused?.status(), await refused?.text()).toBe(503)
    expect(Number(refused!.headers()['retry-after'])).toBeGreaterThan(0)
    expect(((await refused!.json()) as { detail: string }).detail).toMatch(/full|at the moment/)
    await expect.poll(async () => (await api.get('/healthz')).status(), { timeout: 30_000 }).toBe(503)
    const register = await api.get('/api/submissions')
    expect(register.status(), await register.text()).toBe(200)
    expect((await (await api.get('/api/desk')).json()) as object).toMatchObject({ all: expect.any(Number) })
    const stranger = await playwright.request.newContext({ baseURL, extraHTTPHeaders: { Origin: baseURL } })
    const door = await stranger.post('/api/session', { data: owner })
    expect(door.status()).toBe(503)
    expect(((await door.json()) as { detail: string }).detail).toBeTruthy()
    // Each that was acknowledged is there.
    expect(await all()).toBe(before + taken)
    await api.dispose()
    await stranger.dispose()
  } finally {
    child.kill('SIGTERM')
    await new Promise((resolve) => (child.exitCode === null ? child.on('exit', resolve) : resolve(0)))
    rmSync(data, { recursive: true, force: true })
  }
})
