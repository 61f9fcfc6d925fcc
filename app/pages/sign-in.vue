<script setup lang="ts">
definePageMeta({ layout: false })
const account = useAccount()
const route = useRoute()
const fresh = ref(false)
const email = ref('')
const name = ref('')
const password = ref('')
const wrong = ref('')
const busy = ref(false)

async function go(): Promise<void> {
  wrong.value = ''
  busy.value = true
  try {
    if (fresh.value) await account.signUp(email.value, name.value, password.value)
    else await account.signIn(email.value, password.value)
    const then = typeof route.query.then === 'string' && /^\/(?!\/)/.test(route.query.then) ? route.query.then : '/'
    await navigateTo(then)
  } catch (error) {
    wrong.value = error instanceof Error ? error.message.replace(/^body\.\w+: /, '') : 'Something went wrong.'
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <main class="porch">
    <div class="boards" aria-hidden="true" />
    <form class="card" @submit.prevent="go">
      <div class="mark">
        <PorchMark :size="44" />
        <h1>Sun Porch</h1>
      </div>
      <p class="quiet">
        {{ fresh ? 'Make an account, and start a tree in a minute.' : 'Where the team keeps the shape of its work.' }}
      </p>
      <label v-if="fresh">Your name<InputText v-model="name" autocomplete="name" required maxlength="120" /></label>
      <label>Mail address<InputText v-model="email" type="email" autocomplete="username" required autofocus /></label>
      <label
        >Password<InputText
          v-model="password"
          type="password"
          :autocomplete="fresh ? 'new-password' : 'current-password'"
          required
          :minlength="fresh ? 10 : undefined"
      /></label>
      <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
      <Button type="submit" :label="fresh ? 'Make the account' : 'Sign in'" :loading="busy" />
      <Button
        type="button"
        text
        :label="fresh ? 'I have an account' : 'I’m new here'"
        @click="
          () => {
            fresh = !fresh
            wrong = ''
          }
        " />
    </form>
  </main>
</template>

<style scoped>
.porch {
  height: 100%;
  display: grid;
  place-items: center;
  background: var(--page);
  overflow: auto;
  padding: 16px;
  position: relative;
}
.boards {
  position: absolute;
  inset: 0 0 auto;
  height: 34%;
  background: repeating-linear-gradient(
    90deg,
    color-mix(in srgb, var(--ceiling) 96%, #000) 0 1px,
    var(--ceiling) 1px 64px
  );
  border-bottom: 10px solid var(--surface);
  box-shadow: 0 1px 0 var(--line);
}
.card {
  position: relative;
  width: min(380px, 100%);
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 10px;
  padding: 28px 28px 18px;
  display: flex;
  flex-direction: column;
  gap: 14px;
  box-shadow: var(--shadow);
}
.mark {
  display: flex;
  align-items: center;
  gap: 12px;
}
p {
  margin: 0;
}
label {
  display: flex;
  flex-direction: column;
  gap: 4px;
  font-weight: 600;
  font-size: 13px;
}
</style>
