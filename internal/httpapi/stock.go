package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/core/stock"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/stockroom"
)

// tableTypes are the media types of tables, by their ending.
var tableTypes = map[stockroom.TableKind]string{stockroom.CSV: typeCSV + "; charset=utf-8", stockroom.XLSX: typeXLSX}

func (s *server) stockRoutes(api huma.API) {
	type stockOutput struct{ Body []stock.Ware }
	huma.Register(
		api,
		op(http.MethodGet, "/api/stock", "list-stock", "What van, store and suppliers have"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*stockOutput, error) {
			l, err := s.rooms.Stock.Stock(ctx, p)
			return &stockOutput{append([]stock.Ware{}, l...)}, err
		}),
	)
	type itemInput struct{ Body stock.Ware }
	huma.Register(
		api,
		op(http.MethodPut, "/api/stock", "put-item", "Add or change an item"),
		as(func(ctx context.Context, p people.Person, in *itemInput) (*struct{}, error) {
			return nil, s.rooms.Stock.PutItem(ctx, p, in.Body)
		}),
	)
	type dropInput struct {
		Item string `path:"item" maxLength:"40"`
	}
	huma.Register(
		api,
		op(http.MethodDelete, "/api/stock/{item}", "drop-item", "Remove an item of which nothing is held"),
		as(func(ctx context.Context, p people.Person, in *dropInput) (*struct{}, error) {
			return nil, s.rooms.Stock.DropItem(ctx, p, in.Item)
		}),
	)
	type rawInput struct {
		RawBody []byte `contentType:"application/octet-stream"`
	}
	type importOutput struct {
		Body struct {
			Items int `json:"items"`
		}
	}
	huma.Register(
		api,
		op(http.MethodPost, "/api/stock/import", "import-stock", "Read in a stock file, CSV or XLSX: all rows or none"),
		as(func(ctx context.Context, p people.Person, in *rawInput) (*importOutput, error) {
			out := &importOutput{}
			var err error
			out.Body.Items, err = s.rooms.Stock.ImportStock(ctx, p, in.RawBody)
			return out, err
		}),
	)
	type kindInput struct {
		Kind stockroom.TableKind `path:"kind"`
	}
	huma.Register(
		api,
		sending(op(http.MethodGet, "/api/stock/export/{kind}", "export-stock", "The stock as a file"), typeCSV, typeXLSX),
		as(func(ctx context.Context, p people.Person, in *kindInput) (*download, error) {
			b, err := s.rooms.Stock.ExportStock(ctx, p, in.Kind)
			return saveAs(tableTypes[in.Kind], "stock."+string(in.Kind), b), err
		}),
	)
	type ordersOutput struct{ Body stockroom.Orders }
	huma.Register(
		api,
		op(http.MethodGet, "/api/orders", "list-orders", "What to order, by supplier"),
		as(func(ctx context.Context, p people.Person, _ *struct{}) (*ordersOutput, error) {
			o, err := s.rooms.Stock.Orders(ctx, p)
			return &ordersOutput{o}, err
		}),
	)
	huma.Register(
		api,
		sending(op(http.MethodGet, "/api/orders/export/{kind}", "export-orders", "The order list as a file"), typeCSV, typeXLSX),
		as(func(ctx context.Context, p people.Person, in *kindInput) (*download, error) {
			b, err := s.rooms.Stock.ExportOrders(ctx, p, in.Kind)
			return saveAs(tableTypes[in.Kind], "orders."+string(in.Kind), b), err
		}),
	)
}
