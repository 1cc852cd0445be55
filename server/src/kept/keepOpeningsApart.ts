import { spawn } from 'node:child_process'
import { OPENINGS } from '../places'

/** Works out in a process of its own what opens plans; it goes when we go. */
export function keepOpeningsApart(databaseUrl: string, onError: (error: unknown) => void): void {
  spawn(process.execPath, OPENINGS, {
    env: { ...process.env, DATABASE_URL: databaseUrl },
    stdio: ['pipe', 'ignore', 'inherit'],
  }).on('error', onError)
}
