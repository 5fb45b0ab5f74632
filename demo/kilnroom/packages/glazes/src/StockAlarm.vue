<script setup lang="ts">
defineProps<{ glaze: string; kilograms: number; least: number }>();
defineEmits<{ reorder: [glaze: string] }>();
</script>

<template>
  <p v-if="kilograms >= least" role="status">Enough {{ glaze }}</p>
  <div v-else role="alert">
    <span>{{ glaze }} is running out</span>
    <button type="button" @click="$emit('reorder', glaze)">Order more</button>
  </div>
</template>
