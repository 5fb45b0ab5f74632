<script setup lang="ts">
defineProps<{ colour: string }>();
</script>

<template>
  <span class="chip" role="img" :aria-label="colour" :style="{ background: colour }" />
</template>
