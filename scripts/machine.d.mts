import type { ChildProcess } from 'node:child_process'

export const root: string
export function say(text: string): void
export function fail(text: string): never
export function has(command: string): boolean
export function run(command: string, args: readonly string[], options?: object): Promise<void>
export function needPackages(wanted: Readonly<Record<string, string>>): Promise<void>
export function needModules(): Promise<void>
export function needBuild(): Promise<void>
export function needFolder(folder: string, megabytes: number): void
export function keptSecret(folder: string, name: string): string
export function freePort(part?: number, parts?: number): Promise<number>
export function tryPort(host: string, port: number): Promise<string | null>
export interface RunningDatabase {
  readonly url: string
  readonly process: ChildProcess
  readonly pid: number | undefined
  readonly port: number
  stop(): Promise<void>
}
export function setUpDataFolder(data: string): Promise<void>
export function startDatabase(folder: string, port: number): Promise<RunningDatabase>
