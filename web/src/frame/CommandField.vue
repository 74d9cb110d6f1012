<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { answerOf, api } from '@/api/client'
import type { HitView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import DrillForm from '@/drills/DrillForm.vue'
import { useMay } from '@/people/useMay'
import { now as clockNow } from '@/wording/clock'
import { commandsFor, type Command } from './commands'
import { drilled } from './said'
import { useAsAt } from './useAsAt'

/** One field over everything: what there is, where to go, and what can be done. By keyboard alone. */
const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const { when, query, set } = useAsAt()
const { whyNotWork } = useMay()
const text = ref('')
const hits = ref<HitView[]>([])
const at = ref(0)
const drilling = ref('')
const { latest, problem } = useAttempt()

interface Line {
  key: string
  name: string
  detail: string
  why: string
  run: () => void
  /** Why it can't be chosen; empty where it can. */
  not: string
}

const KINDS: Record<string, string> = {
  workload: 'workload',
  resource: 'resource',
  point: 'point',
  drill: 'drill',
  finding: 'finding',
  store: 'store',
  policy: 'policy',
  feed: 'feed',
}

let waiting = 0
watch(text, (words) => {
  window.clearTimeout(waiting)
  at.value = 0
  const wanted = (drilled(words) ?? words).trim()
  if (!wanted) {
    hits.value = []
    return
  }
  waiting = window.setTimeout(
    () =>
      void latest(
        () => answerOf(api.GET('/api/lookup', { params: { query: { q: wanted, ...when.value } } })),
        (answer) => (hits.value = answer ?? []),
      ),
    120,
  )
})

function go(to: string) {
  const [path, search] = to.split('?')
  const asked = Object.fromEntries(new URLSearchParams(search))
  void router.push({ path, query: { ...query.value, ...asked } })
  emit('close')
}

function run(command: Command) {
  if (command.asAt !== undefined) {
    set(command.asAt)
    emit('close')
  } else if (command.to) {
    go(command.to)
  }
}

const lines = computed<Line[]>(() => {
  const drill = drilled(text.value)
  const drills = drill
    ? hits.value
        .filter((h) => h.kind === 'resource')
        .map((h) => ({
          key: `drill ${h.key}`,
          name: `Drill ${h.name}`,
          detail: 'action',
          why: h.detail,
          run: () => (drilling.value = h.key),
          not: whyNotWork.value,
        }))
    : []
  const commands = commandsFor(text.value, clockNow()).map((c) => ({
    key: c.key,
    name: c.name,
    detail: c.detail,
    why: '',
    run: () => run(c),
    not: '',
  }))
  const found = hits.value.map((h) => ({
    key: `${h.kind} ${h.key}`,
    name: h.name,
    detail: KINDS[h.kind] ?? h.kind,
    why: [h.detail, h.why && `matches ${h.why}`].filter(Boolean).join(' · '),
    run: () => go(h.link),
    not: '',
  }))
  return [...drills, ...commands, ...found]
})

/** The line that Enter takes, for whoever can't see it. */
const spoken = computed(() => {
  const line = lines.value[at.value]
  return line ? `${line.detail} ${line.name}, ${line.not || line.why}` : ''
})

function move(by: number) {
  if (!lines.value.length) return
  at.value = (at.value + by + lines.value.length) % lines.value.length
  document.getElementById(`line-${at.value}`)?.scrollIntoView({ block: 'nearest' })
}

function choose(line: Line | undefined) {
  if (line && !line.not) line.run()
}
</script>

<template>
  <DrillForm v-if="drilling" :start="{ resource: drilling }" @close="emit('close')" />
  <v-dialog
    v-else
    :model-value="true"
    aria-label="Find"
    max-width="720"
    @update:model-value="emit('close')"
  >
    <v-card class="field">
      <v-text-field
        v-model="text"
        label="Anything by its name, a page, “drill …”, or “as at 1 October”"
        autofocus
        hide-details
        maxlength="200"
        @keydown.down.prevent="move(1)"
        @keydown.up.prevent="move(-1)"
        @keydown.enter.prevent="choose(lines[at])"
      />
      <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
      <p class="d-sr-only" role="status">{{ spoken }}</p>
      <ul id="lines" role="listbox" aria-label="Found" tabindex="0">
        <li
          v-for="(line, i) in lines"
          :id="`line-${i}`"
          :key="line.key"
          role="option"
          :aria-selected="i === at"
          :aria-disabled="!!line.not"
          :class="{ here: i === at, not: line.not }"
          @mousemove="at = i"
          @click="choose(line)"
        >
          <span class="kind small quiet">{{ line.detail }}</span>
          <span
            ><b>{{ line.name }}</b>
            <span class="small quiet why">{{ line.not || line.why }}</span></span
          >
        </li>
      </ul>
      <p v-if="text.trim() && !lines.length && !problem" class="small quiet none">
        Nothing is called so.
      </p>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.field {
  padding: 14px;
}
ul {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
  max-height: 56vh;
  overflow-y: auto;
}
li {
  display: grid;
  grid-template-columns: 76px 1fr;
  gap: 8px;
  padding: 5px 8px;
  cursor: pointer;
}
li.here {
  background: var(--selected);
}
.why {
  margin-left: 10px;
}
li.not b {
  color: var(--quiet);
}
.none {
  margin: 10px 8px 0;
}
.wrong {
  color: var(--disproven);
}
</style>
