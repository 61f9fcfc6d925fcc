import { FetchError } from 'ofetch'

/** The routes are typed by their operations; deriving them from file names again takes the compiler too deep. */
const send = $fetch as unknown as (path: string, options: object) => Promise<unknown>

export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly details?: unknown,
  ) {
    super(message)
    this.name = 'ApiError'
  }
}

/**
 * Calls our API; what goes wrong comes as an `ApiError` whose message can be shown. Status 0: no line to the server.
 */
export async function callApi<T>(
  path: string,
  options: {
    method?: 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE'
    body?: object
    query?: Record<string, string>
    responseType?: 'json' | 'text'
    headers?: Record<string, string>
    signal?: AbortSignal
    /** Goes out though the page is left before it's answered. For small bodies (the browser takes 64 kB of them). */
    keepalive?: boolean
  } = {},
): Promise<T> {
  try {
    return (await send(path, options)) as T
  } catch (error) {
    const data =
      error instanceof FetchError
        ? (parsed(error.data) as { error?: { code: string; message: string; details?: unknown } } | undefined)?.error
        : undefined
    const status = error instanceof FetchError ? (error.status ?? 0) : 0
    if (status === 401 && data?.code === 'sign-in') window.dispatchEvent(new Event(SIGNED_OUT))
    if (data) throw new ApiError(status, data.code, data.message, data.details)
    throw new ApiError(
      status,
      status ? 'unavailable' : 'offline',
      status ? 'The server doesn’t answer as it should. Please try again.' : 'There is no line to the server just now.',
    )
  }
}

/** What was asked for as text may still be an error as JSON. */
function parsed(data: unknown): unknown {
  if (typeof data !== 'string') return data
  try {
    return JSON.parse(data)
  } catch {
    return undefined
  }
}
