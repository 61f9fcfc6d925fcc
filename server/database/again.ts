/** Times that something is made again at most. */
const TRIES = 5

/** Makes something again, whole, for as long as it fails with what `passes`: some times, then it fails with that. */
export async function again<T>(passes: (error: unknown) => boolean, make: () => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt++)
    try {
      return await make()
    } catch (error) {
      if (attempt === TRIES || !passes(error)) throw error
    }
}
