'use client'
import { useCallback } from 'react'
import { DataTable } from '@/ui/table/data-table'
import { Chart, type Tones } from '@/screen/chart'
import type { Figures, Narrowed, StudentFigures } from './figure-columns'

const weekdays = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
export const weekdayName = (weekday: number) => weekdays[weekday - 1] ?? ''

const percent = ({ present, possible }: { present: number; possible: number }) =>
  possible === 0 ? null : (100 * present) / possible
const share = (n: number, of: number) => (of === 0 ? 0 : (100 * n) / of)

/** Absences of each weekday as shares of its sessions: with a reason below, without one yet on top. */
export function WeekdayChart({ rows }: { rows: Figures['byWeekday'] }) {
  const draw = useCallback(
    (t: Tones) => {
      const x = rows.map((r) => weekdayName(r.weekday).slice(0, 3))
      return {
        data: [
          {
            type: 'bar' as const,
            x,
            y: rows.map((r) => share(r.figures.withReason, r.figures.possible)),
            marker: { color: t.past, line: { color: t.ink, width: 1 } },
          },
          {
            type: 'bar' as const,
            x,
            y: rows.map((r) => share(r.figures.withoutReason, r.figures.possible)),
            marker: { color: t.ink },
            text: rows.map(
              (r) =>
                `${share(r.figures.withReason + r.figures.withoutReason, r.figures.possible).toFixed(1)}%`,
            ),
            textposition: 'outside' as const,
            cliponaxis: false,
          },
        ],
        layout: {
          barmode: 'stack' as const,
          bargap: 0.5,
          margin: { l: 44, r: 16, t: 22, b: 28 },
          yaxis: { ticksuffix: '%', rangemode: 'tozero' as const, nticks: 5 },
        },
      }
    },
    [rows],
  )
  return (
    <figure>
      <Chart label="Absences by weekday; the table below holds the numbers" draw={draw} />
      <figcaption className="mb-2 text-[13px] text-muted">
        Absent, per cent of possible sessions: pale with a reason, dark without one yet.
      </figcaption>
    </figure>
  )
}

/** The share present in each week, beside the threshold. */
export function WeekChart({ rows, threshold }: { rows: Figures['byWeek']; threshold: number }) {
  const draw = useCallback(
    (t: Tones) => {
      const own = rows.map((r) => percent(r.figures))
      const lowest = Math.min(threshold, ...own.map((p) => p ?? 100))
      return {
        data: [
          {
            type: 'scatter' as const,
            mode: 'lines+markers' as const,
            x: rows.map((r) => r.week),
            y: own,
            line: { color: t.ink, width: 2 },
            marker: { color: t.ink, size: 6 },
          },
        ],
        layout: {
          margin: { l: 44, r: 40, t: 8, b: 28 },
          xaxis: {
            type: 'date' as const,
            tickformat: '%-d %b',
            tickvals: rows.map((r) => r.week).filter((_, i) => i % Math.ceil(rows.length / 7) === 0),
          },
          yaxis: { ticksuffix: '%', range: [Math.floor(lowest - 2), 100.5], nticks: 5 },
          shapes: [
            {
              type: 'line' as const,
              xref: 'paper' as const,
              x0: 0,
              x1: 1,
              y0: threshold,
              y1: threshold,
              line: { color: t.magenta, width: 1.5, dash: 'dash' as const },
            },
          ],
          annotations: [
            {
              xref: 'paper' as const,
              x: 1,
              xanchor: 'left' as const,
              y: threshold,
              text: ` ${threshold}%`,
              showarrow: false,
              font: { color: t.magenta },
            },
          ],
        },
      }
    },
    [rows, threshold],
  )
  return (
    <figure>
      <Chart label="Present by week; the table below holds the numbers" draw={draw} />
      <figcaption className="mb-2 text-[13px] text-muted">
        Present, per cent of possible sessions of each week; the broken line is the threshold.
      </figcaption>
    </figure>
  )
}

/** Sessions that both spans need before they are compared: a week of half-days. */
const enough = 10
const shown = 12

/** Students whose last four weeks are furthest below the weeks before, the furthest first. */
function drifting(students: readonly StudentFigures[]) {
  return students
    .filter((s) => s.now && s.recent.possible >= enough && s.before.possible >= enough)
    .map((s) => ({ ...s, change: (percent(s.recent) ?? 0) - (percent(s.before) ?? 0) }))
    .filter((s) => s.change <= -2)
    .sort((a, b) => a.change - b.change)
    .slice(0, shown)
}

/** From the weeks before to the last four weeks, one line for each student who comes less. */
export function DriftChart({
  students,
  onOpen,
}: {
  students: readonly StudentFigures[]
  onOpen: (narrowed: Narrowed) => void
}) {
  const rows = drifting(students)
  const key = rows.map((r) => `${r.id}${r.change}`).join()
  const draw = useCallback(
    (t: Tones) => {
      const names = rows.map((r) => r.name)
      return {
        data: [
          ...rows.map((r) => ({
            type: 'scatter' as const,
            mode: 'lines' as const,
            x: [percent(r.before), percent(r.recent)],
            y: [r.name, r.name],
            line: { color: t.past, width: 3 },
          })),
          {
            type: 'scatter' as const,
            mode: 'markers' as const,
            x: rows.map((r) => percent(r.before)),
            y: names,
            marker: { color: '#ffffff', size: 9, line: { color: t.ink, width: 1.5 } },
          },
          {
            type: 'scatter' as const,
            mode: 'markers' as const,
            x: rows.map((r) => percent(r.recent)),
            y: names,
            marker: { color: t.ink, size: 9 },
          },
        ],
        layout: {
          margin: { l: 150, r: 16, t: 8, b: 28 },
          xaxis: { ticksuffix: '%', nticks: 6 },
          yaxis: { autorange: 'reversed' as const, type: 'category' as const, automargin: true },
        },
      }
    },
    [key], // eslint-disable-line react-hooks/exhaustive-deps
  )
  if (rows.length === 0)
    return (
      <p className="text-muted">
        Nobody's last four weeks are two points or more below the weeks before, or there are too few weeks to
        compare.
      </p>
    )
  return (
    <>
      <figure>
        <Chart
          label="Students whose attendance fell; the table below holds the numbers"
          height={60 + 24 * rows.length}
          draw={draw}
        />
        <figcaption className="mb-2 text-[13px] text-muted">
          Present, per cent: hollow the weeks before, full the last four weeks.
        </figcaption>
      </figure>
      <DataTable
        label="Students whose attendance fell"
        rows={rows}
        rowKey={(r) => r.id}
        columns={[
          {
            id: 'name',
            title: 'Student',
            heading: true,
            cell: (r) => (
              <button
                type="button"
                className="link"
                onClick={() => onOpen({ words: r.name, studentId: r.id })}
              >
                {r.name}
              </button>
            ),
          },
          { id: 'homeroom', title: 'Homeroom', cell: (r) => r.homeroom },
          { id: 'before', title: 'Before', align: 'right', cell: (r) => `${r.before.percentPresent}%` },
          {
            id: 'recent',
            title: 'Last four weeks',
            align: 'right',
            cell: (r) => `${r.recent.percentPresent}%`,
          },
        ]}
        empty={null}
      />
    </>
  )
}
