<script setup lang="ts">
/** A titled part of a sheet, its fields in a grid. */
defineProps<{ title: string; id?: string; tight?: boolean }>()
</script>

<template>
  <section :id="id" class="card group" :data-field="id">
    <header class="row">
      <h2>{{ title }}</h2>
      <span class="grow" />
      <slot name="actions" />
    </header>
    <div class="grid" :class="{ tight }"><slot /></div>
    <slot name="below" />
  </section>
</template>

<style scoped>
.group {
  margin-top: 12px;
  scroll-margin: 120px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 12px 16px;
  margin-top: 10px;
}
.tight {
  grid-template-columns: repeat(auto-fill, minmax(148px, 1fr));
}
@media (max-width: 719px) {
  .grid {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
@media (max-width: 359px) {
  .grid {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
