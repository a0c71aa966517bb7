// A train of changes as a row: its end and number of changes follow from its gaps.
import { coreTrain, gapsOf, type AddEdges } from '@calm-loop/contract'
import { endOf } from '@calm-loop/core/discrete'

/** A train's row; its end and number of changes follow from its gaps. */
export function trainRow(train: AddEdges) {
  return { ...train, endMs: endOf(coreTrain(train)), changes: gapsOf(train.gaps).length }
}
