import { redirect } from 'next/navigation'

/** The place begins with the registers of the day. */
export default function AttendancePage() {
  redirect('/attendance/registers')
}
