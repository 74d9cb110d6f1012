<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import FormDialog from '@/frame/FormDialog.vue'
import { useMay } from '@/people/useMay'
import { asked, named, nothing, same, type Loss } from './loss'

/** Losses with a name, to be asked about again: kept, looked at, forgotten. */
const props = defineProps<{ loss: Loss; words: string }>()
const emit = defineEmits<{ lose: [loss: Loss] }>()

const { data, refresh } = useServerData('/api/kept-losses', () => ({}))
const { whyNotWork } = useMay()
const { attempt, busy, problem } = useAttempt()
const keeping = ref(false)
const name = ref('')
const nothingLost = computed(() => same(props.loss, nothing()))
const known = computed(() => data.value?.some((k) => k.name === name.value.trim()))

const keep = () =>
  attempt(async () => {
    await answerOf(
      api.PUT('/api/kept-losses', { body: { name: name.value, loss: asked(props.loss) } }),
    )
    keeping.value = false
    name.value = ''
    await refresh()
  })
const forget = (which: string) =>
  attempt(async () => {
    await answerOf(api.DELETE('/api/kept-losses', { params: { query: { name: which } } }))
    await refresh()
  })
</script>

<template>
  <h2>Kept under a name</h2>
  <p v-if="data && !data.length" class="small quiet">
    None yet. Lose something, then keep it, to ask the same again.
  </p>
  <ul class="kept">
    <li v-for="k in data ?? []" :key="k.name">
      <button
        class="one"
        :aria-pressed="same(loss, named(k.loss))"
        :title="k.words"
        @click="emit('lose', same(loss, named(k.loss)) ? nothing() : named(k.loss))"
      >
        {{ k.name }}
      </button>
      <button
        type="button"
        class="link small"
        :disabled="!!whyNotWork || busy"
        :title="whyNotWork || `Kept by ${k.by}`"
        :aria-label="`Forget ${k.name}`"
        @click="forget(k.name)"
      >
        forget
      </button>
    </li>
  </ul>
  <p v-if="problem && !keeping" class="wrong small" role="alert">{{ problem }}</p>
  <v-btn
    :disabled="nothingLost || !!whyNotWork"
    :title="whyNotWork || (nothingLost ? 'Nothing is lost yet' : undefined)"
    @click="keeping = true"
    >Keep this loss</v-btn
  >
  <FormDialog
    v-if="keeping"
    title="Keep this loss"
    :action="known ? 'Keep in its place' : 'Keep'"
    :ready="!!name.trim()"
    :busy="busy"
    :problem="problem"
    hint="Give it a name"
    @close="keeping = false"
    @submit="keep"
  >
    <p>{{ words[0]?.toUpperCase() }}{{ words.slice(1) }}.</p>
    <v-text-field v-model="name" label="Name" maxlength="60" autofocus />
    <p v-if="known" class="small">Another is kept under this name: this one takes its place.</p>
  </FormDialog>
</template>

<style scoped>
.kept {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}
.kept li {
  display: flex;
  align-items: center;
  gap: 8px;
  border-bottom: 1px solid var(--rule);
}
.one {
  flex: 1;
  min-height: 32px;
  padding: 4px 6px;
  border: 0;
  background: none;
  color: inherit;
  font: 13px/1.35 var(--sans);
  text-align: left;
  cursor: pointer;
  overflow-wrap: anywhere;
}
.one[aria-pressed='true'] {
  background: var(--selected);
}
.wrong {
  color: var(--disproven);
}
</style>
