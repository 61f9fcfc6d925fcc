/** Light, dusk, or as the machine says; kept in this browser. */
export function useTheme() {
  const choice = useState<'light' | 'dusk' | 'machine'>(
    'theme',
    () => (localStorage.getItem('theme') as 'light' | 'dusk' | null) ?? 'machine',
  )
  /** The one that is worn now. */
  const shown = useState<'light' | 'dusk'>('theme-shown', () => 'light')
  const machineDark = window.matchMedia('(prefers-color-scheme: dark)')
  const apply = (): void => {
    const dusk = choice.value === 'dusk' || (choice.value === 'machine' && machineDark.matches)
    document.documentElement.dataset.theme = dusk ? 'dusk' : 'light'
    shown.value = dusk ? 'dusk' : 'light'
    window.dispatchEvent(new CustomEvent('theme-changed'))
  }
  watch(
    choice,
    now => {
      if (now === 'machine') localStorage.removeItem('theme')
      else localStorage.setItem('theme', now)
      apply()
    },
    { immediate: true },
  )
  machineDark.onchange = apply
  return {
    choice,
    shown,
    toggle: () => {
      choice.value = document.documentElement.dataset.theme === 'dusk' ? 'light' : 'dusk'
    },
  }
}
