/** Calls to the API, typed by method and path from its description. Every call resolves: with a value, or with the problem the server names. */
import createClient from 'openapi-fetch'
import type { MaybeOptionalInit } from 'openapi-fetch'
import type { PathsWithMethod, RequiredKeysOf, SuccessResponse } from 'openapi-typescript-helpers'
import { shallowRef } from 'vue'
import { saved } from './changes'
import { keep, kept } from './kept'
import type { paths } from './schema'
import type { Problem } from './types'

/** What every call resolves with. It rejects only for a bug, never for an answer or a lost line. */
export type ApiResult<T> = { ok: true; value: T } | { ok: false; problem: Problem }

/** Set when the server says that nobody is signed in. */
export const signedOut = shallowRef(false)

/** When the oldest of what is shown was read, where the line is lost and it is what this device has kept. */
export const keptSince = shallowRef<string>()
/** Set when the server says that it belongs to another version of this page. */
export const otherVersion = shallowRef(false)
/** The file this page began with: its name changes with every version. */
const begunWith = document.querySelector<HTMLScriptElement>('script[type=module]')?.src.split('/').pop()

type Method = 'get' | 'post' | 'put' | 'delete'
type Responses<P extends keyof paths, M extends Method> = paths[P][M] extends {
  responses: infer R extends Record<string | number, unknown>
}
  ? R
  : never
/** What the server answers where it does what was asked; nothing where it only says that it has. */
type Answer<P extends keyof paths, M extends Method> = SuccessResponse<Responses<P, M>>

/** The path's and the query's parameters, and the body, as the description wants them; left out where it wants none. */
type Given<P extends keyof paths, M extends Method> =
  RequiredKeysOf<MaybeOptionalInit<paths[P], M>> extends never
    ? [given?: MaybeOptionalInit<paths[P], M>]
    : [given: MaybeOptionalInit<paths[P], M>]

/** One call that has not been sent: plain data, so that it can be compared and kept. */
export interface Call<T> {
  method: Method
  path: string
  params?: { path?: Record<string, unknown>; query?: Record<string, unknown> }
  body?: unknown
  /** Only for the compiler: the type of the answer. */
  answers?: T
}

const asks =
  <M extends Method>(method: M) =>
  <P extends PathsWithMethod<paths, M>>(path: P, ...[given]: Given<P, M>): Call<Answer<P, M>> => {
    const { params, body }: Pick<Call<never>, 'params' | 'body'> = given ?? {}
    return { method, path, params, body }
  }

export const get = asks('get')
export const post = asks('post')
export const put = asks('put')
export const remove = asks('delete')

export interface SendOptions {
  signal?: AbortSignal
  /** The write's key; a try that is repeated under it saves once. @default a new one */
  key?: string
  /** How often a call is tried when the line is lost. @default 3 */
  tries?: number
  /** What a paired device says who it is by. */
  bearer?: string
}

const TRIES = 3

const lost: Problem = {
  type: 'urn:yardwand:lost',
  title: 'No connection',
  status: 0,
  detail: 'The server cannot be reached. What you typed is still here: try again when the line is back.',
}

/** Sends what was asked for by its method, whatever it is: what each call may send and is answered is checked where it is made. */
type Sender = Record<
  Method,
  {
    parameters: Record<string, unknown>
    requestBody?: { content: Record<`${string}/${string}`, unknown> }
    responses: Record<number, unknown>
  }
>
const client = createClient<Record<string, Sender>>({
  // A photograph goes as it is; everything else is a document.
  bodySerializer: (body: unknown) => (body instanceof Blob ? body : JSON.stringify(body)),
})

/** Tries again while the line is lost. */
const patient = (tries: number) => async (request: Request) => {
  for (let attempt = 1; ; attempt += 1) {
    try {
      return await fetch(request.clone())
    } catch (error) {
      if (request.signal.aborted || attempt === tries) throw error
      await new Promise((resolve) => setTimeout(resolve, 300 * attempt))
    }
  }
}

/** Whether the server itself said what is wrong, and not a proxy before it. */
const isProblem = (said: unknown): said is Problem =>
  typeof said === 'object' && said !== null && 'detail' in said

/** What this device has kept of it, or that the line is lost. */
async function withoutLine<T>(call: Call<T>): Promise<ApiResult<T>> {
  const known = await kept(call)
  if (!known) return { ok: false, problem: lost }
  const at = new Date(known.at).toISOString()
  if (keptSince.value === undefined || at < keptSince.value) keptSince.value = at
  return { ok: true, value: known.value as T }
}

/** Sends one call; a write carries a key, so that a try that is repeated saves once. */
export async function send<T>(call: Call<T>, options: SendOptions = {}): Promise<ApiResult<T>> {
  const { method, path, params, body } = call
  const isQuestion = method === 'get'
  const headers: Record<string, string> = { accept: 'application/json' }
  if (body instanceof Blob) headers['content-type'] = 'application/octet-stream'
  if (options.bearer) headers['authorization'] = `Bearer ${options.bearer}`
  if (method === 'post' || options.key) headers['idempotency-key'] = options.key ?? crypto.randomUUID()
  try {
    const answer = await client.request(method, path, {
      params,
      body,
      headers,
      signal: options.signal,
      fetch: patient(options.tries ?? TRIES),
    })
    const version = answer.response.headers.get('yardwand-page')
    if (version && begunWith?.startsWith('index-') && version !== begunWith) otherVersion.value = true
    if (!answer.response.ok) {
      if (answer.response.status === 401) signedOut.value = true
      return isProblem(answer.error) ? { ok: false, problem: answer.error } : withoutLine(call)
    }
    keptSince.value = undefined
    void keep(call, answer.data)
    // A write under no key of its own is a question: a preview, a length read.
    if (!isQuestion && (method !== 'post' || options.key)) saved()
    return { ok: true, value: answer.data as T }
  } catch (error) {
    if (error instanceof SyntaxError) throw error
    // What nobody waits for any more is no sign of a lost line.
    return options.signal?.aborted ? { ok: false, problem: lost } : withoutLine(call)
  }
}
