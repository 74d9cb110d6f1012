<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { time } from '@/wording/format'
import { useAsAt } from './useAsAt'

const { asAt, lookingBack, set } = useAsAt()
const open = ref(false)
const day = ref('')
const clock = ref('')

const shown = computed(() => (lookingBack.value ? time(asAt.value) : 'now'))
const chosen = computed(() => {
  const instant = new Date(`${day.value}T${clock.value || '00:00'}:00Z`)
  return Number.isNaN(instant.getTime()) ? undefined : instant
})
const wrong = computed(() => {
  if (!day.value) return ''
  if (!chosen.value) return 'This is not a date and time.'
  return chosen.value.getTime() > Date.now()
    ? 'This is still to come; choose an instant that has been.'
    : ''
})

watch(open, (isOpen) => {
  if (!isOpen) return
  const from = (lookingBack.value ? new Date(asAt.value) : new Date()).toISOString()
  day.value = from.slice(0, 10)
  clock.value = from.slice(11, 16)
})

function apply() {
  if (!chosen.value || wrong.value) return
  set(chosen.value.toISOString().replace('.000Z', 'Z'))
  open.value = false
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
        As at <span class="mono">{{ shown }}</span>
      </button>
    </template>
    <form class="sheet" @submit.prevent="apply">
      <p class="small quiet">See everything by what was known at an instant (UTC).</p>
      <div class="row">
        <v-text-field v-model="day" type="date" label="Day" autofocus />
        <v-text-field v-model="clock" type="time" label="Time" />
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <div class="row">
        <v-btn type="submit" color="primary" variant="flat" :disabled="!day || !!wrong"
          >Look back</v-btn
        >
        <v-btn v-if="lookingBack" @click="now">Now</v-btn>
      </div>
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
  width: 330px;
}
.sheet p {
  margin: 0;
}
.wrong {
  color: var(--disproven);
  font-size: 13px;
}
</style>
