import styled from 'styled-components'

/** The sentence that says why a form was not taken. */
export function FormProblem({ error }: { error: { message: string } | null | undefined }) {
  return error ? <Line role="alert">{error.message}</Line> : null
}
const Line = styled.p`
  color: ${({ theme }) => theme.color.wine};
`
