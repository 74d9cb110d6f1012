<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answerOf, api } from '@/api/client'
import type { SelectorMatches } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import { count } from '@/wording/format'

/**
 * Builds a selector: conditions that must all hold, of which one must hold, or of which none may. What
 * it matches, and why or why not, is shown while it is built. Empty chooses every resource.
 */
const selector = defineModel<string>({ required: true })
defineProps<{ label?: string }>()

type Part = 'all' | 'any' | 'none'
interface Row {
  id: number
  part: Part
  field: string
  values: string[]
}
const PARTS = [
  { value: 'all', title: 'and' },
  { value: 'any', title: 'or' },
  { value: 'none', title: 'but not' },
]

const { data: fields } = useServerData('/api/selector-fields')
const rows = ref<Row[]>([])
const also = ref<string[]>([])
const matches = ref<SelectorMatches>()
const { latest, problem } = useAttempt()
const listed = ref(false)
let next = 1
let written = ''

function read(text: string) {
  const json = (text ? JSON.parse(text) : {}) as Partial<
    Record<Part, { field: string; in: string[] }[]>
  > & { also?: string[] }
  rows.value = (['all', 'any', 'none'] as const).flatMap((part) =>
    (json[part] ?? []).map((c) => ({ id: next++, part, field: c.field, values: c.in })),
  )
  also.value = json.also ?? []
}

watch(
  selector,
  (text) => {
    if (text === written) return
    try {
      read(text)
    } catch {
      rows.value = []
    }
  },
  { immediate: true },
)

const text = computed(() => {
  const json: Record<string, unknown> = {}
  for (const part of ['all', 'any', 'none'] as const) {
    const conditions = rows.value
      .filter((r) => r.part === part && r.field && r.values.length)
      .map((r) => ({ field: r.field, in: r.values }))
    if (conditions.length) json[part] = conditions
  }
  if (also.value.length) json.also = also.value
  return Object.keys(json).length ? JSON.stringify(json) : ''
})

watch(
  text,
  async (now) => {
    written = now
    selector.value = now
    await latest(
      () => answerOf(api.POST('/api/selector-matches', { body: { selector: now } })),
      (answer) => (matches.value = answer ?? matches.value),
    )
  },
  { immediate: true },
)

function add() {
  rows.value.push({ id: next++, part: 'all', field: 'tier', values: [] })
}

const choices = computed(() => Object.keys(fields.value?.values ?? {}))
const isPattern = (field: string) => field === 'name' || field === 'key'
</script>

<template>
  <fieldset class="builder">
    <legend class="small quiet">{{ label ?? 'Which resources' }}</legend>
    <div v-for="(r, i) in rows" :key="r.id" class="condition">
      <v-select
        v-model="r.part"
        :items="PARTS"
        density="compact"
        hide-details
        :aria-label="`How condition ${i + 1} counts`"
      />
      <v-select
        v-model="r.field"
        :items="choices"
        density="compact"
        hide-details
        :aria-label="`Field of condition ${i + 1}`"
      />
      <v-combobox
        v-model="r.values"
        :items="fields?.values[r.field] ?? []"
        multiple
        variant="outlined"
        density="compact"
        hide-details
        :placeholder="isPattern(r.field) ? 'payroll-*' : 'one or more'"
        :aria-label="`Values of condition ${i + 1}`"
      />
      <button
        type="button"
        class="link"
        :aria-label="`Take away condition ${i + 1}`"
        @click="rows.splice(i, 1)"
      >
        ×
      </button>
    </div>
    <p v-if="also.length" class="small">and also {{ also.join(', ') }}</p>
    <div class="row">
      <button type="button" class="link small" @click="add">add a condition</button>
      <span v-if="problem" class="small wrong" role="alert">{{ problem }}</span>
      <span v-else-if="matches" class="small" role="status">
        {{ matches.words }}: <b>{{ count(matches.matched, 'resource', 'resources') }}</b> of
        {{ matches.total }}<template v-if="matches.nearly">, {{ matches.nearly }} nearly</template>.
        <button type="button" class="link" :aria-expanded="listed" @click="listed = !listed">
          {{ listed ? 'fold' : 'which, and why' }}
        </button>
      </span>
    </div>
    <div v-if="listed && matches" class="which">
      <table class="plain">
        <tbody>
          <tr v-for="m in matches.rows" :key="m.key">
            <td :class="{ quiet: !m.matches }">
              <span aria-hidden="true">{{ m.matches ? '●' : m.nearly ? '◐' : '○' }}</span>
              <span class="visually-hidden">{{
                m.matches ? 'matches' : m.nearly ? 'nearly matches' : 'does not match'
              }}</span>
              {{ m.name }}
            </td>
            <td class="small quiet">{{ m.why }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </fieldset>
</template>

<style scoped>
.builder {
  border: 1px solid var(--rule);
  border-radius: 2px;
  padding: 4px 10px 8px;
  display: grid;
  gap: 6px;
  min-width: 0;
}
.condition {
  display: grid;
  grid-template-columns: 118px 150px minmax(140px, 1fr) 18px;
  gap: 8px;
  align-items: center;
}
.which {
  max-height: 220px;
  overflow: auto;
  border-top: 1px solid var(--rule);
}
.wrong {
  color: var(--disproven);
}
p {
  margin: 0;
}
</style>
