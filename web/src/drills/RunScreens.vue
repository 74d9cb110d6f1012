<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answerOf, api } from '@/api/client'
import type { RunView, ScreenView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { duration, screenClassName } from '@/wording/format'

/** What a machine shows now, or showed at the end; and the word that is asked on an unknown screen. */
const props = defineProps<{ run: RunView; mayWork: boolean }>()

const { attempt, busy, problem } = useAttempt()
const screens = ref<ScreenView[]>([])
const tick = ref(0)
const reason = ref('')
const LIVE = -1

watch(
  () => [props.run.id, props.run.ended, props.run.awaits, JSON.stringify(props.run.steps)],
  async () => {
    if (props.run.method !== 'boot') return
    try {
      screens.value = await answerOf(
        api.GET('/api/drill-runs/{id}/screens', { params: { path: { id: props.run.id } } }),
      )
      tick.value++
    } catch {
      // The text of the run stands beside it; the picture comes with the next change.
    }
  },
  { immediate: true },
)

const last = computed(() => screens.value[screens.value.length - 1])

function picture(s: ScreenView): string {
  const fresh = s.number === LIVE ? `?t=${tick.value}` : ''
  return `/api/drill-runs/${props.run.id}/screens/${s.number}.png${fresh}`
}

async function say(right: boolean) {
  await attempt(async () => {
    await answerOf(
      api.POST('/api/drill-runs/{id}/screen-word', {
        params: { path: { id: props.run.id } },
        body: { right, reason: reason.value },
      }),
    )
  })
}
</script>

<template>
  <figure v-if="last" class="screens">
    <img
      v-if="last.picture"
      :src="picture(last)"
      :alt="last.lines?.filter((l) => l.trim()).join('\n') || 'a picture without text'"
    />
    <figcaption class="small">
      <b>{{ last.number === LIVE ? 'Its screen now' : 'Its last screen' }}</b><template
        v-if="last.screenClass"
        >: {{ screenClassName(last.screenClass) }}</template
      >
      <span class="quiet">
        · after {{ duration(last.atMs) }} of its own time<template v-if="last.engine"
          >, {{ last.engine }}</template
        ></span
      >
      <span v-if="screens.length > 1" class="quiet"> · before it </span>
      <a
        v-for="s in screens.slice(0, -1)"
        :key="s.number"
        class="link"
        :href="picture(s)"
        target="_blank"
        rel="noopener"
        >{{ duration(s.atMs) }}</a
      >
    </figcaption>
    <form v-if="run.awaits === 'person'" class="word" @submit.prevent>
      <p>Nobody has accepted this screen yet. Is it what this machine shows when it is well?</p>
      <v-text-field
        v-model="reason"
        label="How you know (stands in the evidence)"
        maxlength="300"
      />
      <div class="row">
        <v-btn
          color="primary"
          variant="flat"
          :disabled="!mayWork || !reason.trim()"
          :loading="busy"
          @click="say(true)"
          >Yes, take it as its own</v-btn
        >
        <v-btn :disabled="!mayWork || !reason.trim()" :loading="busy" @click="say(false)"
          >No, it is wrong</v-btn
        >
      </div>
      <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    </form>
  </figure>
</template>

<style scoped>
.screens {
  margin: 8px 0;
  max-width: 560px;
}
img {
  padding: 6px;
  background: #0c0f12;
  display: block;
  width: 100%;
  border: 1px solid var(--rule);
}
figcaption {
  padding-top: 3px;
}
.link {
  margin-left: 6px;
}
.word {
  border: 1px solid var(--rule-strong);
  padding: 8px 10px;
  margin-top: 6px;
  display: grid;
  gap: 8px;
}
p {
  margin: 0;
}
.bad {
  color: var(--disproven);
}
</style>
