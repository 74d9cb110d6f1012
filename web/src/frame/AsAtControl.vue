<script setup lang="ts">
import { now as clockNow } from '@/wording/clock'
import { computed, ref, watch } from 'vue'
import { time } from '@/wording/format'
import KnownChoice from './KnownChoice.vue'
import { calendarPeriods } from './periods'
import { useAsAt, type Known } from './useAsAt'

const { asAt, from, known, hindsight, lookingBack, set, setPeriod } = useAsAt()
const open = ref(false)
const day = ref('')
const clock = ref('')
const by = ref<Known>('then')
const periodBy = ref<Known>('now')

const first = ref('')
const last = ref('')
const periods = computed(() => (open.value ? calendarPeriods(clockNow()) : []))
const shown = computed(() => {
  const end = lookingBack.value ? time(asAt.value) : 'now'
  if (!from.value) return end
  const known = calendarPeriods(clockNow()).find(
    (p) => p.from === from.value && p.until === asAt.value,
  )
  return known?.title ?? `${time(from.value)} to ${end}`
})
const wrongPeriod = computed(() => {
  if (first.value && Date.parse(first.value) > clockNow())
    return 'The period is still to come; choose a first day that has been.'
  return first.value && last.value && first.value > last.value
    ? 'The period ends before it begins.'
    : ''
})
const chosen = computed(() => {
  const instant = new Date(`${day.value}T${clock.value || '00:00'}:00Z`)
  return Number.isNaN(instant.getTime()) ? undefined : instant
})
const wrong = computed(() => {
  if (!day.value) return ''
  if (!chosen.value) return 'This is not a date and time.'
  return chosen.value.getTime() > clockNow()
    ? 'This is still to come; choose an instant that has been.'
    : ''
})

watch(open, (isOpen) => {
  if (!isOpen) return
  const at = (lookingBack.value ? new Date(asAt.value) : new Date()).toISOString()
  day.value = at.slice(0, 10)
  clock.value = at.slice(11, 16)
  by.value = hindsight.value && !from.value ? 'now' : 'then'
  periodBy.value = from.value && known.value === 'then' ? 'then' : 'now'
})

function apply() {
  if (!chosen.value || wrong.value) return
  set(chosen.value.toISOString().replace('.000Z', 'Z'), by.value)
  open.value = false
}

function period(begin: string, until: string) {
  setPeriod(begin, until, periodBy.value)
  open.value = false
}

function applyPeriod() {
  if (!first.value || wrongPeriod.value) return
  const after = last.value ? Date.parse(`${last.value}T00:00:00Z`) + 86_400_000 : Infinity
  period(
    `${first.value}T00:00:00Z`,
    after < clockNow() ? new Date(after).toISOString().replace('.000Z', 'Z') : '',
  )
}

function now() {
  set('')
  open.value = false
}
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false">
    <template #activator="{ props }">
      <button v-bind="props" class="as-at" :class="{ back: lookingBack }">
        As at <span class="mono">{{ shown }}</span><template v-if="hindsight"
          >, in hindsight</template
        >
      </button>
    </template>
    <form class="sheet" @submit.prevent="apply">
      <p class="small quiet">See everything as at an instant (UTC).</p>
      <div class="row">
        <v-text-field v-model="day" type="date" label="Day" autofocus />
        <v-text-field v-model="clock" type="time" label="Time" />
      </div>
      <KnownChoice v-model="by" />
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <div class="row">
        <v-btn type="submit" color="primary" variant="flat" :disabled="!day || !!wrong"
          >Look back</v-btn
        >
        <v-btn v-if="lookingBack || from" @click="now">Now</v-btn>
      </div>
    </form>
    <form class="sheet period" @submit.prevent="applyPeriod">
      <p class="small quiet">Or over a period: what moved in it, seen from its end.</p>
      <KnownChoice v-model="periodBy" />
      <p class="small">
        <button
          v-for="p in periods"
          :key="p.title"
          type="button"
          class="link"
          @click="period(p.from, p.until)"
        >
          {{ p.title }}
        </button>
      </p>
      <div class="row">
        <v-text-field v-model="first" type="date" label="First day" />
        <v-text-field v-model="last" type="date" label="Last day" />
        <v-btn type="submit" :disabled="!first || !!wrongPeriod">Period</v-btn>
      </div>
      <p v-if="wrongPeriod" class="wrong" role="alert">{{ wrongPeriod }}</p>
    </form>
  </v-menu>
</template>

<style scoped>
.as-at {
  align-self: center;
  font: inherit;
  color: inherit;
  background: none;
  border: 1px solid var(--rule);
  border-radius: 2px;
  padding: 4px 11px;
  cursor: pointer;
}
.as-at.back {
  background: var(--amber);
}
.sheet {
  background: var(--sheet);
  border: 1px solid var(--rule-strong);
  padding: 12px;
  display: grid;
  gap: 10px;
  width: 360px;
}
.period {
  border-top: 0;
}
.period .link {
  margin-right: 8px;
}
.sheet p {
  margin: 0;
}
.wrong {
  color: var(--disproven);
  font-size: 13px;
}
</style>
