<script setup lang="ts">
import { computed, ref } from 'vue'
import { useKeptAway } from './useKeptAway'

/** Ten minutes with the demo, a step at a time; the README tells the same. */
const away = useKeptAway('guide')
const at = ref(0)

const STEPS = [
  { to: '/board', text: 'The sentence on top counts verdicts; each word in it narrows the list.' },
  {
    to: '/board?w=payroll',
    text: 'Payroll is disproven, although all its jobs succeeded. Its case file shows why.',
  },
  {
    to: '/board?w=freight',
    text: 'Freight hangs from a copy with one flipped bit. Drill it from the other store.',
  },
  {
    to: '/drills',
    text: 'A machine waits with a screen that nobody has seen: say whether it is right.',
  },
  {
    to: '/integrity',
    text: 'What of every store was read back, and what is lost with what is damaged.',
  },
  {
    to: '/survival',
    text: 'Press Skerry Point: what would be left of every workload, since when, when it is back, and what would help.',
  },
  {
    to: '/findings',
    text: 'What is not met, what matters most first. Three resources have nothing.',
  },
  { to: '/criteria', text: 'Change a value: what would turn stands beside it before it is saved.' },
  { to: '/feeds', text: 'Drop a file: a preview says what is new, changed and rejected, and why.' },
  {
    to: '/evidence',
    text: 'Make a pack, and check it anywhere with the program or with sha256sum.',
  },
]
const step = computed(() => STEPS[at.value] ?? STEPS[0]!)
</script>

<template>
  <p v-if="!away" class="guide small" role="note" aria-label="Guide through the demo">
    <b>Guide {{ at + 1 }} of {{ STEPS.length }}</b>
    <span class="text">{{ step.text }} <router-link :to="step.to">Go there</router-link></span>
    <button class="link" :disabled="at === 0" @click="at--">Back</button>
    <button class="link" :disabled="at === STEPS.length - 1" @click="at++">Next</button>
    <button class="link" @click="away = true">Put the guide away</button>
  </p>
</template>

<style scoped>
.guide {
  display: flex;
  gap: 4px 12px;
  flex-wrap: wrap;
  margin: 0;
  padding: 4px 20px;
  background: var(--selected);
  border-bottom: 1px solid var(--rule);
}
.link:disabled {
  color: var(--quiet);
  text-decoration: none;
  cursor: default;
}
.text {
  flex: 1;
  min-width: 200px;
}
</style>
