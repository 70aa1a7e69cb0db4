<template>
  <!-- Settings: label above value, two columns where there is room. -->
  <div class="@container">
    <div class="grid grid-cols-1 gap-x-4 gap-y-3 @min-[400px]:grid-cols-2"><slot /></div>
  </div>
</template>
