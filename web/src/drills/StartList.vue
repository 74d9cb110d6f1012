<script setup lang="ts">
import Moment from '@/frame/Moment.vue'
import type { StartTaken } from '@/api/types'
import { count } from '@/wording/format'

/** What became of the last starts of programmes. */
defineProps<{ starts: StartTaken[]; nameOf: (key: string) => string }>()
const emit = defineEmits<{ draw: [start: StartTaken] }>()

/** Why not is folded where it names more than one resource or two. */
const LONG = 160
</script>

<template>
  <h2 class="later">What became of the last starts</h2>
  <p v-if="!starts.length" class="quiet small">No start has been due yet.</p>
  <table v-else class="plain">
    <tbody>
      <tr v-for="s in starts.slice(0, 12)" :key="s.programme + s.due">
        <td class="mono nowrap"><Moment :at="s.due" /></td>
        <td>{{ nameOf(s.programme) }}</td>
        <td>
          <b :class="{ wrong: !s.started }">{{
            s.started ? count(s.runs, 'drill started', 'drills started') : 'missed'
          }}</b>
          <button v-if="s.drawn" type="button" class="link drawn" @click="emit('draw', s)">
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
</template>

<style scoped>
.later {
  margin-top: 18px;
}
.drawn {
  margin-left: 8px;
}
.wrong {
  color: var(--disproven);
}
</style>
