<script setup lang="ts">
/**
 * Says that the server doesn't know one any more. It leads to the sign-in and back; never by itself, since somebody may be
 * typing.
 */
const { why } = defineProps<{ why: 'signed-out' | 'somebody-else' }>()
const route = useRoute()
// Whoever sits down here now gets a page of their own, with nothing of what this one remembers.
const reopen = (): void => window.location.reload()
const signIn = () => navigateTo({ path: '/sign-in', query: route.path === '/' ? {} : { then: route.fullPath } })
</script>

<template>
  <HouseNotice>
    <template v-if="why === 'signed-out'">
      <span>You have been signed out. What you change in a tree waits here until you’re back.</span>
      <Button size="small" label="Sign in again" @click="signIn" />
    </template>
    <template v-else>
      <span>Somebody else has signed in in this browser. What you changed in a tree waits here for you.</span>
      <Button size="small" label="Go on as them" @click="reopen" />
    </template>
  </HouseNotice>
</template>
