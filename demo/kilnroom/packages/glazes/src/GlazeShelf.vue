<script setup lang="ts">
import { computed } from 'vue';
import GlazeCard from './GlazeCard.vue';

const props = defineProps<{ glazes: { name: string; colour: string; stock: number }[] }>();

const inStock = computed(() => props.glazes.filter((glaze) => glaze.stock > 0));
</script>

<template>
  <section aria-label="Glaze shelf">
    <p role="status">{{ inStock.length }} in stock</p>
    <GlazeCard v-for="glaze in props.glazes" :key="glaze.name" v-bind="glaze" />
  </section>
</template>
