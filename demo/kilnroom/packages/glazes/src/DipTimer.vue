<script setup lang="ts">
import { onBeforeUnmount, ref } from 'vue';

const seconds = ref(0);
let timer: ReturnType<typeof setInterval> | undefined;

const start = () => {
  timer = setInterval(() => (seconds.value += 1), 1000);
};
onBeforeUnmount(() => clearInterval(timer));
</script>

<template>
  <div>
    <output>{{ seconds }} s</output>
    <button type="button" @click="start">Start dipping</button>
  </div>
</template>
