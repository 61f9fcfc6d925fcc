<script setup lang="ts">
interface Letter {
  id: string
  to: string
  files: string[]
  subject: string
  body: string
  link: string | null
  createdAt: string
  read: boolean
}
const letters = ref<Letter[] | null>(null)
const box = ref<'in' | 'sent'>('in')
watch(box, () => {
  letters.value = null
  void load()
})
const countLetters = inject<() => Promise<void>>('count-letters', async () => {})
const openId = ref<string | null>(null)
const wrong = ref('')
async function load(): Promise<void> {
  wrong.value = ''
  try {
    letters.value = await callApi<Letter[]>(`/api/letters?box=${box.value}`)
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
onMounted(load)
async function show(letter: Letter): Promise<void> {
  openId.value = openId.value === letter.id ? null : letter.id
  if (!letter.read) {
    letter.read = true
    await callApi(`/api/letters/${letter.id}/read`, { method: 'POST' }).catch(() => {})
    await countLetters()
  }
}
useHead({ title: 'Letterbox · Sun Porch' })
</script>

<template>
  <main class="page">
    <header>
      <h1>Letterbox</h1>
      <span class="segments" role="group" aria-label="Which letters"
        ><button :aria-pressed="box === 'in'" @click="box = 'in'">To me</button
        ><button :aria-pressed="box === 'sent'" @click="box = 'sent'">Sent</button></span
      >
    </header>
    <p class="quiet">
      {{ box === 'in' ? 'Mail from Sun Porch to you.' : 'What you sent: invitations, requests, minutes.' }} Without a
      mail server it stands here alone.
    </p>
    <Message v-if="wrong" severity="error" role="alert">{{ wrong }} <button @click="load">Try again</button></Message>
    <p v-if="letters?.length === 0" class="quiet">
      {{
        box === 'in'
          ? 'No letters yet. Invitations arrive here.'
          : 'Nothing sent yet. Invitations, requests and minutes that go out stand here.'
      }}
    </p>
    <ul>
      <li v-for="letter in letters ?? []" :key="letter.id" :class="{ fresh: !letter.read }">
        <button class="head" :aria-expanded="openId === letter.id" @click="show(letter)">
          <Icon :name="letter.read ? 'lucide:mail-open' : 'lucide:mail'" size="17" /><span class="subject"
            >{{ letter.subject }}<small v-if="box === 'sent'">to {{ letter.to }}</small></span
          ><span class="quiet">{{ agoInWords(letter.createdAt) }}</span>
        </button>
        <div v-if="openId === letter.id" class="body">
          <p>{{ letter.body }}</p>
          <p v-if="letter.files.length" class="files">
            <a v-for="(name, i) in letter.files" :key="name" :href="`/api/letters/${letter.id}/files/${i}`" download
              ><Icon name="lucide:paperclip" size="14" /> {{ name }}</a
            >
          </p>
          <NuxtLink v-if="letter.link" :to="letter.link"><Button label="Open" size="small" /></NuxtLink>
        </div>
      </li>
    </ul>
  </main>
</template>

<style scoped>
.page {
  height: 100%;
  overflow: auto;
  padding: 28px clamp(16px, 4vw, 48px);
  max-width: 860px;
}
ul {
  list-style: none;
  margin: 16px 0 0;
  padding: 0;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 9px;
  overflow: hidden;
}
ul:empty {
  display: none;
}
li {
  border-bottom: 1px solid var(--line);
}
li:last-child {
  border: 0;
}
header {
  display: flex;
  gap: 18px;
  align-items: center;
}
header .segments button {
  flex: none;
  padding: 4px 12px;
}
.subject small {
  color: var(--quiet);
  font-weight: 400;
  margin-left: 8px;
}
.files {
  display: flex;
  gap: 14px;
}
.files a {
  display: inline-flex;
  gap: 5px;
  align-items: center;
}
.head {
  width: 100%;
  display: flex;
  gap: 12px;
  align-items: center;
  border: 0;
  background: none;
  padding: 12px 16px;
  cursor: pointer;
  text-align: left;
}
.head:hover {
  background: var(--hover);
}
.subject {
  flex: 1;
}
.fresh .subject {
  font-weight: 700;
}
.body {
  padding: 2px 16px 16px 45px;
}
.body p {
  white-space: pre-line;
  margin: 0 0 12px;
}
</style>
