const memories = new Set<() => void>()

/** What a page remembers of whoever is signed in, for longer than a part of it stands: emptied as they sign out. */
export function forgottenWith(empty: () => void): void {
  memories.add(empty)
}

export function forgetMemories(): void {
  for (const empty of memories) empty()
}
