/** Calls to the API. Every call resolves: with a value, or with the problem the server names. */
import { shallowRef } from 'vue'
import { tellOthers } from './changes'
import type { Problem } from './types'

/** What every call resolves with. It rejects only for a bug, never for an answer or a lost line. */
export type ApiResult<T> = { ok: true; value: T } | { ok: false; problem: Problem }

/** Set when the server says that nobody is signed in. */
export const signedOut = shallowRef(false)

interface CallOptions {
  body?: unknown
  signal?: AbortSignal
  /** The write's key; a try that is repeated under it saves once. @default a new one */
  key?: string
  /** How often a call is tried when the line is lost. @default 3 */
  tries?: number
}

const TRIES = 3

const lost: Problem = {
  type: 'urn:yardwand:lost',
  title: 'No connection',
  status: 0,
  detail: 'The server cannot be reached. What you typed is still here: try again when the line is back.',
}

/** One call; a write carries a key, so that a try that is repeated saves once. */
export async function call<T>(
  method: string,
  path: string,
  options: CallOptions = {},
): Promise<ApiResult<T>> {
  const headers: Record<string, string> = { accept: 'application/json' }
  if (options.body !== undefined) headers['content-type'] = 'application/json'
  if (method === 'POST' || options.key) headers['idempotency-key'] = options.key ?? crypto.randomUUID()
  // A photograph goes as it is; everything else is a document.
  const isFile = options.body instanceof Blob
  if (isFile) headers['content-type'] = 'application/octet-stream'
  const body =
    options.body === undefined || isFile ? (options.body as Blob | undefined) : JSON.stringify(options.body)
  for (let attempt = 1; ; attempt += 1) {
    try {
      const response = await fetch(path, { method, headers, body, signal: options.signal })
      const result = await read<T>(response)
      // A write under no key of its own is a question: a preview, a length read.
      if (result.ok && method !== 'GET' && (method !== 'POST' || options.key)) tellOthers()
      return result
    } catch {
      if (options.signal?.aborted || attempt === (options.tries ?? TRIES)) return { ok: false, problem: lost }
      await new Promise((resolve) => setTimeout(resolve, 300 * attempt))
    }
  }
}

async function read<T>(response: Response): Promise<ApiResult<T>> {
  const text = await response.text()
  const value: unknown = text === '' ? undefined : JSON.parse(text)
  if (response.ok) return { ok: true, value: value as T }
  if (response.status === 401) signedOut.value = true
  return { ok: false, problem: value as Problem }
}

export const get = <T>(path: string, signal?: AbortSignal) => call<T>('GET', path, { signal })
export const post = <T>(path: string, body: unknown = {}, signal?: AbortSignal) =>
  call<T>('POST', path, { body, signal })
export const put = <T>(path: string, body: unknown) => call<T>('PUT', path, { body })
export const remove = <T>(path: string) => call<T>('DELETE', path)
