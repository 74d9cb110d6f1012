<script setup lang="ts">
import { onBeforeUnmount, ref, watch } from 'vue'
import Moment from '@/frame/Moment.vue'
import { useServerData } from '@/api/useServerData'
import { now, setClock } from '@/wording/clock'
import { duration } from '@/wording/format'

/** Says that the demo's clock is not the real one. */
const { data } = useServerData('/api/clock')
const shown = ref(now())
watch(data, (clock) => {
  if (clock) setClock(clock.now, clock.pace)
})
const timer = setInterval(() => (shown.value = now()), 500)
onBeforeUnmount(() => clearInterval(timer))

const HOUR = 3_600_000
</script>

<template>
  <p v-if="data && !data.real" class="band" role="note">
    <b>The demo's clock is not the real one:</b>
    <span class="mono"><Moment :at="shown" /></span
    ><template v-if="data.pace > 1">, an hour passes in {{ duration(HOUR / data.pace) }}</template
    >.
  </p>
</template>

<style scoped>
.band {
  margin: 0;
  padding: 5px 20px;
  background: color-mix(in srgb, var(--lapsed) 18%, var(--paper));
  border-bottom: 1px solid var(--rule);
  font-size: 13px;
}
</style>
