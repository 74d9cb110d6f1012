<script setup lang="ts">
import { time, utc } from '@/wording/format'

/** A time in the person's zone, with UTC where the pointer rests. */
defineProps<{ at: string | number }>()
</script>

<template>
  <time :datetime="new Date(at).toISOString()" :title="utc(at)">{{ time(at) }}</time>
</template>
