export { focusTree } from '~/focus/opened'
