package mellow.server.product;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface ProductRepository extends JpaRepository<Product, Long> {

    @Query("from Product where slug = :slug and removedAt is null")
    Optional<Product> findBySlug(String slug);

    @Query("from Product where lower(name) = lower(:name) and removedAt is null")
    Optional<Product> findByName(String name);

    List<Product> findByRemovedAtNullOrderByNameAsc();

    List<Product> findByRemovedAtNotNullOrderByRemovedAtDesc();
}
