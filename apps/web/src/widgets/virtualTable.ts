// The table that draws only the rows in view; a chunk of its own, asked for once a list has grown long.
export { VDataTableVirtual as default } from 'vuetify/components/VDataTable'
