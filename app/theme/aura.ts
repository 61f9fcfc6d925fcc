import type { ExtendedCSS, Preset } from '@primeuix/themes/types'
import badge from '@primeuix/themes/aura/badge'
import base from '@primeuix/themes/aura/base'
import button from '@primeuix/themes/aura/button'
import checkbox from '@primeuix/themes/aura/checkbox'
import css from '@primeuix/themes/aura/css'
import contextmenu from '@primeuix/themes/aura/contextmenu'
import datepicker from '@primeuix/themes/aura/datepicker'
import dialog from '@primeuix/themes/aura/dialog'
import iconfield from '@primeuix/themes/aura/iconfield'
import inputnumber from '@primeuix/themes/aura/inputnumber'
import inputtext from '@primeuix/themes/aura/inputtext'
import menu from '@primeuix/themes/aura/menu'
import message from '@primeuix/themes/aura/message'
import popover from '@primeuix/themes/aura/popover'
import ripple from '@primeuix/themes/aura/ripple'
import select from '@primeuix/themes/aura/select'
import slider from '@primeuix/themes/aura/slider'
import textarea from '@primeuix/themes/aura/textarea'
import tieredmenu from '@primeuix/themes/aura/tieredmenu'
import virtualscroller from '@primeuix/themes/aura/virtualscroller'

/**
 * The design tokens of those PrimeVue components that the app has (nuxt.config.ts), and of what they're made of. All of them together
 * would be a good part of what a browser loads before it shows a tree.
 */
export const AURA: Preset = {
  ...base,
  components: {
    badge,
    button,
    checkbox,
    contextmenu,
    datepicker,
    dialog,
    iconfield,
    inputnumber,
    inputtext,
    menu,
    message,
    popover,
    ripple,
    select,
    slider,
    textarea,
    tieredmenu,
    virtualscroller,
  },
  css: css as unknown as ExtendedCSS,
}
