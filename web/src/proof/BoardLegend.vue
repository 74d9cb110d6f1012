<script setup lang="ts">
import { useKeptAway } from '@/frame/useKeptAway'

/** What the signs of the Board mean, for whoever sees them first. */
const away = useKeptAway('legend')
</script>

<template>
  <p v-if="away" class="legend small">
    <button class="link" @click="away = false">What the signs mean</button>
  </p>
  <p v-else class="legend small quiet">
    <span class="sign"><i class="bar" /> the rung that is proven</span>
    <span class="sign"><i class="short" /> proven, but too low</span>
    <span class="sign"><i class="missing" /> missing</span>
    <span class="sign"><i class="line-sign" /> the rung demanded</span>
    <span class="sign">
      <b>Proof</b> solid is reached, the flag is demanded, <s>struck</s> has failed
    </span>
    <span class="sign"> <b>Copies</b> copies · media · off-site · offline or locked · errors </span>
    <button class="link" @click="away = true">Put this away</button>
  </p>
</template>

<style scoped>
.legend {
  margin: 4px 0 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  align-items: baseline;
}
.sign {
  white-space: nowrap;
}
i {
  display: inline-block;
  width: 14px;
  height: 10px;
  margin-right: 3px;
}
.bar {
  background: var(--bar);
}
.short {
  background: var(--bar-short);
}
.missing {
  background: repeating-linear-gradient(135deg, var(--hatch) 0 1.3px, transparent 1.3px 4px);
}
.line-sign {
  height: 2px;
  vertical-align: 4px;
  background: var(--accent);
}
s {
  color: var(--disproven);
}
</style>
