<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { answerOf, api } from '@/api/client'
import type { CureView, CureWay } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { count } from '@/wording/format'

/** What would prevent lapses: each thing lets the nights pass once more, one after the other. */
const props = defineProps<{ of: string }>()

const WAYS: CureWay[] = ['at-once', 'hours', 'room', 'least-work', 'any-copy', 'as-needed']

const { attempt, busy, problem, forget } = useAttempt()
const wanted = ref(false)
const tried = ref<CureView[]>([])
const helping = computed(() => tried.value.filter((c) => c.helps).sort((a, b) => b.fewer - a.fewer))

let round = 0

async function tryAll() {
  const mine = ++round
  wanted.value = true
  tried.value = []
  await attempt(async () => {
    for (const way of WAYS) {
      const cure = await answerOf(
        api.GET('/api/forecast/cures/{way}', { params: { path: { way } } }),
      )
      if (mine !== round) return
      tried.value.push(cure)
    }
  })
}

function stop() {
  round++
  forget()
}

// What was tried was tried on other nights.
watch(
  () => props.of,
  () => {
    stop()
    wanted.value = false
  },
)
onBeforeUnmount(stop)
</script>

<template>
  <button v-if="!wanted" type="button" class="link" @click="tryAll">try what would help</button>
  <template v-else>
    <h2 class="later">What would help, by trying it</h2>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <p v-if="busy" class="quiet small" role="status">
      Tried {{ tried.length }} of {{ WAYS.length }} …
      <button type="button" class="link" @click="stop">stop</button>
    </p>
    <p v-else-if="!helping.length && tried.length === WAYS.length" class="quiet small">
      None of more drills at once, longer nights, more room, weaker methods, other copies or
      drilling as needed.
    </p>
    <ul class="cures">
      <li v-for="c in helping" :key="c.what">
        {{ c.what }}:
        <b>{{ c.fewer ? `${count(c.fewer, 'gap', 'gaps')} less` : 'shorter gaps' }}</b>
        <span class="quiet"> ({{ c.missing }} without proof are left in all)</span>
      </li>
    </ul>
  </template>
</template>

<style scoped>
.later {
  margin-top: 18px;
}
.cures {
  margin: 4px 0;
  padding-left: 20px;
}
.wrong {
  color: var(--disproven);
}
</style>
