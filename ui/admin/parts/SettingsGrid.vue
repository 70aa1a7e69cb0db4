<template>
  <!--
    Settings: label above value, two columns where there is room. A container query would be nearer to the matter, but its containment
    would clip the lists that open from the cells.
  -->
  <div class="grid grid-cols-1 gap-x-4 gap-y-3 sm:grid-cols-2"><slot /></div>
</template>
