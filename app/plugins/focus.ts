import { opened } from '~/focus/opened'
import { listenForEarlyKeys } from '~/focus/typeahead'

export default defineNuxtPlugin(nuxtApp => {
  nuxtApp.vueApp.directive('opened', opened)
  listenForEarlyKeys()
})
