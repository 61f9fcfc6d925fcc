import { opened } from '~/focus/opened'
import { listenForSecondClicks } from '~/focus/second-click'
import { listenForEarlyKeys } from '~/focus/typeahead'

export default defineNuxtPlugin(nuxtApp => {
  nuxtApp.vueApp.directive('opened', opened)
  listenForSecondClicks()
  listenForEarlyKeys()
})
