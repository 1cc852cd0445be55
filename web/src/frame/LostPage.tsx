import { isRouteErrorResponse, useRouteError } from 'react-router'
import { LinkButton } from '../ui/Button'
import { Page } from '../ui/Page'
import { Empty } from '../ui/States'

/** For addresses that lead nowhere, and for views that broke. */
export function LostPage() {
  const error = useRouteError()
  const broke = error !== undefined && error !== null && !isRouteErrorResponse(error)
  return (
    <Page title={broke ? 'This view broke' : 'Nothing here'}>
      <Empty
        action={
          <LinkButton $main to="/" reloadDocument={broke}>
            To the start
          </LinkButton>
        }
      >
        {broke ? 'Something in this view went wrong. Everything that was saved is still there.' : 'No view has this address. What you look for may have been removed, or the address was cut short.'}
      </Empty>
    </Page>
  )
}
