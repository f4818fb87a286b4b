package localdb

// Done is closed when the server that runs now has ended; nil for one that was
// joined.
func (s *Server) Done() <-chan struct{} {
	if p := s.current(); p != nil {
		return p.done
	}
	return nil
}
