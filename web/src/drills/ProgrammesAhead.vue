<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { ProgrammeCalendar, StartTaken } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useMay } from '@/people/useMay'
import { count, duration, methodName, relative, time } from '@/wording/format'
import DrawSheet from './DrawSheet.vue'
import ProgrammeForm from './ProgrammeForm.vue'

/** What starts by itself, and what became of what was due. */
const props = defineProps<{ calendar?: ProgrammeCalendar; now: number; mayWork: boolean }>()
const emit = defineEmits<{ changed: [] }>()

const { whyNotWork } = useMay()
const { attempt, problem } = useAttempt()
const planning = ref(false)
/** Why not is folded where it names more than one resource or two. */
const LONG = 160
/** The start whose draw is looked at. */
const drawOf = ref<StartTaken>()

function endProgramme(key: string) {
  return attempt(async () => {
    await answerOf(api.DELETE('/api/programmes/{key}', { params: { path: { key: key } } }))
    emit('changed')
  })
}

function nameOf(key: string): string {
  return props.calendar?.programmes.find((p) => p.key === key)?.name ?? key
}
</script>

<template>
  <div>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <div class="columns">
      <div>
        <div class="row-between">
          <h2>Due</h2>
          <v-btn :disabled="!mayWork" :title="whyNotWork" @click="planning = true"
            >New programme</v-btn
          >
        </div>
        <p v-if="!calendar?.ahead.length" class="empty quiet">
          Nothing is due by itself. A programme drills what matches it, as often as you say.
        </p>
        <table v-else class="plain">
          <thead>
            <tr>
              <th>When (UTC)</th>
              <th></th>
              <th>Programme</th>
              <th class="n">Resources</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="a in calendar.ahead.slice(0, 14)" :key="a.programme + a.due">
              <td class="mono nowrap">{{ time(a.due) }}</td>
              <td class="quiet nowrap">{{ relative(a.due, now) }}</td>
              <td>{{ a.name }}</td>
              <td class="n">{{ a.resources }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div>
        <h2>Programmes</h2>
        <article v-for="p in calendar?.programmes" :key="p.key" class="block programme">
          <div class="row-between">
            <b>{{ p.name }}</b>
            <v-btn v-if="mayWork" @click="endProgramme(p.key)">End</v-btn>
          </div>
          <p class="small">
            {{ p.scope }} · {{ count(p.resources.length, 'resource', 'resources') }} ·
            {{ p.method ? methodName(p.method) : 'the method that shows the most of each kind' }}
            · {{ p.point }} · {{ p.copy }}
          </p>
          <p class="small quiet mono">
            {{ p.rule }} {{ p.zone }} · start window {{ duration(p.startWindowMs) }}
          </p>
        </article>
        <h2 class="later">What became of the last starts</h2>
        <p v-if="!calendar?.starts.length" class="quiet small">No start has been due yet.</p>
        <table v-else class="plain">
          <tbody>
            <tr v-for="s in calendar.starts.slice(0, 12)" :key="s.programme + s.due">
              <td class="mono nowrap">{{ time(s.due) }}</td>
              <td>{{ nameOf(s.programme) }}</td>
              <td>
                <b :class="{ wrong: !s.started }">{{
                  s.started ? count(s.runs, 'drill started', 'drills started') : 'missed'
                }}</b>
                <button v-if="s.drawn" type="button" class="link drawn" @click="drawOf = s">
                  how it was drawn
                </button>
                <details v-if="s.reason.length > LONG" class="quiet">
                  <summary>{{ s.reason.slice(0, s.reason.indexOf(':')) }}</summary>
                  {{ s.reason.slice(s.reason.indexOf(':') + 1) }}
                </details>
                <span v-else-if="s.reason" class="quiet">: {{ s.reason }}</span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </div>
    <DrawSheet
      v-if="drawOf"
      :programme="drawOf.programme"
      :name="nameOf(drawOf.programme)"
      :due="drawOf.due"
      @close="drawOf = undefined"
    />
    <ProgrammeForm v-if="planning" @close="planning = false" @added="emit('changed')" />
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 36px;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
.programme p,
.block p {
  margin: 2px 0;
}
.later {
  margin-top: 18px;
}
.empty {
  padding: 18px 0;
}
.drawn {
  margin-left: 8px;
}
.wrong {
  color: var(--disproven);
}
</style>
