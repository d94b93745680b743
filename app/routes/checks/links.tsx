export default function Soon() {
  return null
}
