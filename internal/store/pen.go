package store

import (
	"context"
	"database/sql"
)

// pen is the one connection that writes. It keeps its statements prepared, within and across
// transactions; a pool prepares them anew in each. One goroutine uses it at a time.
type pen struct {
	pool  *sql.DB
	conn  *sql.Conn
	stmts map[string]*sql.Stmt
}

// mostPrepared is how many statements stay prepared: the program has some hundred. Common
// practice, no source.
const mostPrepared = 400

func newPen(pool *sql.DB) (*pen, error) {
	conn, err := pool.Conn(context.Background())
	return &pen{pool: pool, conn: conn, stmts: map[string]*sql.Stmt{}}, err
}

// prepared returns a statement that is prepared once.
func (p *pen) prepared(ctx context.Context, query string) (*sql.Stmt, error) {
	if s, ok := p.stmts[query]; ok {
		return s, nil
	}
	if len(p.stmts) >= mostPrepared {
		for _, s := range p.stmts {
			s.Close()
		}
		clear(p.stmts)
	}
	s, err := p.conn.PrepareContext(ctx, query)
	if err == nil {
		p.stmts[query] = s
	}
	return s, err
}

// PrepareContext implements gorm.ConnPool.
func (p *pen) PrepareContext(ctx context.Context, query string) (*sql.Stmt, error) {
	return p.conn.PrepareContext(ctx, query)
}

// ExecContext implements gorm.ConnPool.
func (p *pen) ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error) {
	s, err := p.prepared(ctx, query)
	if err != nil {
		return nil, err
	}
	return s.ExecContext(ctx, args...)
}

// QueryContext implements gorm.ConnPool.
func (p *pen) QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error) {
	s, err := p.prepared(ctx, query)
	if err != nil {
		return nil, err
	}
	return s.QueryContext(ctx, args...)
}

// QueryRowContext implements gorm.ConnPool.
func (p *pen) QueryRowContext(ctx context.Context, query string, args ...any) *sql.Row {
	s, err := p.prepared(ctx, query)
	if err != nil {
		return p.conn.QueryRowContext(ctx, query, args...) // which fails with that error
	}
	return s.QueryRowContext(ctx, args...)
}

// GetDBConn implements gorm.GetDBConnector.
func (p *pen) GetDBConn() (*sql.DB, error) { return p.pool, nil }

// close closes the statements, the connection and its pool.
func (p *pen) close() error {
	for _, s := range p.stmts {
		s.Close()
	}
	p.conn.Close()
	return p.pool.Close()
}
